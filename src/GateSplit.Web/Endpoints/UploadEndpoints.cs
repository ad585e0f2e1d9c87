using System.Globalization;
using System.Text;
using GateSplit.Core;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.Features;

namespace GateSplit.Web.Endpoints;

/// <summary>
/// Uploads that go on where they broke off: the open tus protocol 1.0.0 (tus.io/protocols/resumable-upload) with its
/// extensions creation and termination.
/// </summary>
public static class UploadEndpoints
{
    private const string Version = "1.0.0";
    private const string Full = "The disk is full, so the upload cannot go on. Make room; it then goes on where it is.";

    /// <summary>Maps /sessions/{id}/uploads, /uploads for what is to become a session, and /uploads/{key}.</summary>
    public static void MapUploads(this IEndpointRouteBuilder app)
    {
        app.MapMethods("/sessions/{id:long}/uploads", ["OPTIONS"], Options);
        app.MapPost("/sessions/{id:long}/uploads", Create).DisableAntiforgery();
        app.MapMethods("/uploads", ["OPTIONS"], Options);
        app.MapPost("/uploads", (SessionStore sessions, UploadRoom room, IAntiforgery antiforgery, HttpContext context) => Create(ResumableUpload.NewSession, sessions, room, antiforgery, context)).DisableAntiforgery();
        app.MapMethods("/uploads/{key}", ["HEAD"], (string key, IAudioStore store, HttpContext context) =>
        {
            Speak(context);
            if (ResumableUpload.Find(store, key) is not { } upload)
            {
                return Results.NotFound();
            }

            context.Response.Headers.CacheControl = "no-store";
            context.Response.Headers["Upload-Offset"] = upload.Offset.Count.ToString(CultureInfo.InvariantCulture);
            context.Response.Headers["Upload-Length"] = upload.Length.Count.ToString(CultureInfo.InvariantCulture);
            return Results.Ok();
        });
        app.MapMethods("/uploads/{key}", ["PATCH"], Append).DisableAntiforgery();
        app.MapMethods("/uploads/{key}", ["DELETE"], async (string key, IAudioStore store, IAntiforgery antiforgery, HttpContext context) =>
        {
            Speak(context);
            if (await Refuse(antiforgery, context) is { } refused)
            {
                return refused;
            }

            ResumableUpload.Find(store, key)?.Discard(store);
            return Results.NoContent();
        }).DisableAntiforgery();
    }

    private static IResult Options(UploadRoom room, HttpContext context)
    {
        Speak(context);
        context.Response.Headers["Tus-Version"] = Version;
        context.Response.Headers["Tus-Extension"] = "creation,termination";
        context.Response.Headers["Tus-Max-Size"] = room.Limits.File.Count.ToString(CultureInfo.InvariantCulture);
        return Results.NoContent();
    }

    private static async Task<IResult> Create(long id, SessionStore sessions, UploadRoom room, IAntiforgery antiforgery, HttpContext context)
    {
        Speak(context);
        if (await Refuse(antiforgery, context) is { } refused)
        {
            return refused;
        }

        if (id != ResumableUpload.NewSession && await sessions.Head(id) is null)
        {
            return Results.NotFound();
        }

        if (!long.TryParse(context.Request.Headers["Upload-Length"], CultureInfo.InvariantCulture, out var length) || length < 0)
        {
            return Results.BadRequest("An upload has to say how long it is.");
        }

        Core.Result<ResumableUpload> begun;
        try
        {
            begun = room.Begin(id, FileName(context.Request.Headers["Upload-Metadata"].ToString()), new(length));
        }
        catch (IOException e)
        {
            return Results.Text(FullDisk.Is(e) ? Full : $"The disk refuses: {e.Message}", statusCode: StatusCodes.Status507InsufficientStorage);
        }

        if (!begun.Ok)
        {
            return Results.Text(begun.Trouble, statusCode: StatusCodes.Status413PayloadTooLarge);
        }

        context.RequestServices.GetRequiredService<ILoggerFactory>().CreateLogger("GateSplit.Web.Uploads")
            .LogInformation("Session {Session}: an upload of {Bytes} bytes begins", id, length);
        context.Response.Headers["Upload-Offset"] = "0";
        return Results.Created($"/uploads/{begun.Value.Key}", null);
    }

    private static async Task<IResult> Append(string key, IAudioStore store, IAntiforgery antiforgery, HttpContext context)
    {
        Speak(context);
        if (await Refuse(antiforgery, context) is { } refused)
        {
            return refused;
        }

        if (ResumableUpload.Find(store, key) is not { } upload)
        {
            return Results.NotFound();
        }

        if (context.Request.ContentType != "application/offset+octet-stream")
        {
            return Results.StatusCode(StatusCodes.Status415UnsupportedMediaType);
        }

        if (!long.TryParse(context.Request.Headers["Upload-Offset"], CultureInfo.InvariantCulture, out var offset))
        {
            return Results.BadRequest("A piece has to say where it belongs.");
        }

        context.Features.Get<IHttpMaxRequestBodySizeFeature>()!.MaxRequestBodySize = null;
        try
        {
            if (!await upload.Append(new(offset), context.Request.Body, context.RequestAborted))
            {
                return Results.Conflict();
            }
        }
        catch (IOException e) when (FullDisk.Is(e))
        {
            return Results.Text(Full, statusCode: StatusCodes.Status507InsufficientStorage);
        }
        catch (IOException) when (!context.RequestAborted.IsCancellationRequested)
        {
            return Results.StatusCode(StatusCodes.Status423Locked);
        }

        context.Response.Headers["Upload-Offset"] = upload.Offset.Count.ToString(CultureInfo.InvariantCulture);
        return Results.NoContent();
    }

    private static void Speak(HttpContext context) => context.Response.Headers["Tus-Resumable"] = Version;

    /// <summary>Another version of the protocol, or a page that is not ours.</summary>
    private static async Task<IResult?> Refuse(IAntiforgery antiforgery, HttpContext context)
    {
        if (context.Request.Headers["Tus-Resumable"] != Version)
        {
            context.Response.Headers["Tus-Version"] = Version;
            return Results.StatusCode(StatusCodes.Status412PreconditionFailed);
        }

        return await antiforgery.IsRequestValidAsync(context) ? null : Results.BadRequest("The page is too old. Load it again and choose the files once more.");
    }

    /// <summary>The name in "filename bmlnaHQud2F2,filetype ...", without any folders.</summary>
    private static string FileName(string metadata)
    {
        foreach (var pair in metadata.Split(',', StringSplitOptions.TrimEntries))
        {
            if (pair.Split(' ') is ["filename", var encoded])
            {
                try
                {
                    var name = Encoding.UTF8.GetString(Convert.FromBase64String(encoded)).Replace('\\', '/');
                    return Path.GetFileName(name) is { Length: > 0 and <= 255 } plain ? plain : "recording";
                }
                catch (FormatException)
                {
                    return "recording";
                }
            }
        }

        return "recording";
    }
}
