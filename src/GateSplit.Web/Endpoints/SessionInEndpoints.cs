using GateSplit.Core;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Mvc.ViewFeatures;

namespace GateSplit.Web.Endpoints;

/// <summary>Takes whole sessions in: as a form, streamed to disk as it comes, or from an upload that was resumed.</summary>
public static class SessionInEndpoints
{
    /// <summary>Maps /sessions/in/files, /sessions/in/gather and /jobs/{id}.json.</summary>
    public static void MapSessionIn(this IEndpointRouteBuilder app)
    {
        app.MapPost("/sessions/in/files", Receive).DisableAntiforgery();
        app.MapPost("/sessions/in/gather", Gather);
        app.MapGet("/jobs/{id:long}.json", async (long id, JobStore jobs) => await jobs.Find(id) is { } job
            ? Results.Json(new { job.State, job.Share, job.Sentence, job.SessionId })
            : Results.NotFound());
    }

    private static async Task<IResult> Receive(string token, IAudioStore store, UploadRoom room, JobQueue queue, HttpContext context)
    {
        if (!await StreamedForm.IsOurs(context, token))
        {
            return Back(context, StreamedForm.TooOld);
        }

        var length = new Core.Quantities.Bytes(context.Request.ContentLength ?? room.Left(ResumableUpload.NewSession).Count);
        StreamedForm.Limit(context, length.Count);
        ResumableUpload? upload = null;
        var kept = false;
        try
        {
            await foreach (var (name, body) in StreamedForm.Files(context))
            {
                var begun = room.Begin(ResumableUpload.NewSession, name, length);
                if (!begun.Ok)
                {
                    return Back(context, begun.Trouble);
                }

                upload = begun.Value;
                if (!await upload.Append(0, body, context.RequestAborted))
                {
                    return Back(context, "More came than was said, so nothing was kept. Send it again.");
                }

                kept = true;
                return Results.LocalRedirect($"/?in={await queue.BringSessionIn(new SessionInRequest(upload.Staging))}");
            }

            return Back(context, "No file came with the form. Choose one first.");
        }
        catch (Exception e) when (e is InvalidDataException or BadHttpRequestException or IOException && !context.RequestAborted.IsCancellationRequested)
        {
            return Back(context, e is IOException io && FullDisk.Is(io)
                ? "The disk is full, so the session could not be taken in. Make room and send it again."
                : $"The form could not be read to its end, so nothing was kept: {e.Message}");
        }
        finally
        {
            if (!kept)
            {
                upload?.Discard(store);
            }
        }
    }

    /// <summary>Goes on with an upload that has come whole, for a script: answers with the address where it is told how far it is, or with a sentence.</summary>
    private static async Task<IResult> Gather(HttpRequest request, IAudioStore store, JobQueue queue, IAntiforgery antiforgery, HttpContext context)
    {
        if (!await antiforgery.IsRequestValidAsync(context))
        {
            return Results.Text("The page is too old. Load it again.", statusCode: StatusCodes.Status400BadRequest);
        }

        if (request.Form["key"] is not [{ } key])
        {
            return Results.Text("One session is brought in at a time.", statusCode: StatusCodes.Status409Conflict);
        }

        return ResumableUpload.Find(store, key) is { SessionId: ResumableUpload.NewSession } upload && upload.Offset == upload.Length
            ? Results.Text($"/?in={await queue.BringSessionIn(new SessionInRequest(upload.Staging))}")
            : Results.Text("Not all of it is here.", statusCode: StatusCodes.Status409Conflict);
    }

    private static IResult Back(HttpContext context, string notice)
    {
        var next = context.RequestServices.GetRequiredService<ITempDataDictionaryFactory>().GetTempData(context);
        next.Notify(notice);
        next.Save();
        return Results.LocalRedirect("/");
    }
}
