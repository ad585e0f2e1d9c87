using GateSplit.Data;

namespace GateSplit.Web.Endpoints;

/// <summary>Audio for the player, by ranges.</summary>
public static class AudioEndpoints
{
    /// <summary>Maps /audio/{hash}.</summary>
    public static void MapAudio(this IEndpointRouteBuilder app) =>
        app.MapMethods("/audio/{hash}", ["GET", "HEAD"], (string hash, IAudioStore store, HttpContext context) =>
        {
            if (store.Find(hash) is not { } path)
            {
                return Results.NotFound();
            }

            // The name is the hash of the bytes, so they never change.
            context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
            return Results.File(path, "audio/wav", enableRangeProcessing: true);
        });
}
