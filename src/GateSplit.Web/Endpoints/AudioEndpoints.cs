using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Data;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Endpoints;

/// <summary>Audio for the player, by ranges.</summary>
public static class AudioEndpoints
{
    /// <summary>Maps /audio/{hash}, the printed file, and /audio/{take}/{track}?mends=, the same as its mends make it.</summary>
    public static void MapAudio(this IEndpointRouteBuilder app)
    {
        app.MapMethods("/audio/{take:long}/{track}", ["GET", "HEAD"], async (long take, string track, string mends, MendedTracks tracks, IAudioStore store, HttpContext context) =>
        {
            if (await tracks.Find(take, track, mends) is not { } line || store.Find(line.Printed.Hash) is not { } path || WaveReader.Open(path).Value is not { } reader)
            {
                return Results.NotFound();
            }

            // The address names the mends, so its bytes never change either.
            context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
            return Results.Stream(new WaveStream(new MendedRecording(reader, line.Plan), reader), "audio/wav", enableRangeProcessing: true);
        });
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
}
