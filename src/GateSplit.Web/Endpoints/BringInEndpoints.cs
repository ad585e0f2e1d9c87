using GateSplit.Core;
using GateSplit.Core.Sound;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;

namespace GateSplit.Web.Endpoints;

/// <summary>Takes a recording made elsewhere, streamed to disk as it comes.</summary>
public static class BringInEndpoints
{
    /// <summary>The most bytes a recording may have.</summary>
    public const long MostBytes = 64L << 30;

    private const long MostMultipartExtra = 1 << 16;

    /// <summary>Maps /sessions/{id}/bring-in.</summary>
    public static void MapBringIn(this IEndpointRouteBuilder app) =>
        app.MapPost("/sessions/{id:long}/bring-in", Receive).DisableAntiforgery();

    private static async Task<IResult> Receive(
        long id, string bank, string token, SessionStore sessions, IAudioStore store, JobQueue queue, IAntiforgery antiforgery, HttpContext context)
    {
        // The form is read as a stream, so its token comes with the address and is checked like one in a header.
        context.Request.Headers["RequestVerificationToken"] = token;
        var formFeature = context.Features.Get<IFormFeature>();
        context.Features.Set<IFormFeature>(new FormFeature(FormCollection.Empty));
        var valid = await antiforgery.IsRequestValidAsync(context);
        context.Features.Set(formFeature);
        if (!valid)
        {
            return Back(id, "The page is too old. Load it again and choose the file once more.");
        }

        if (await sessions.Load(id) is not { } state)
        {
            return Results.NotFound();
        }

        if (Refusal(context.Request.ContentLength ?? 0, store) is { } refusal)
        {
            return Back(id, refusal);
        }

        if (BringInJob.Lines(state.Split, bank, t => t.Id).Count == 0)
        {
            return Back(id, "No armed track listens to these inputs, so there is nothing to cut the recording into.");
        }

        context.Features.Get<IHttpMaxRequestBodySizeFeature>()!.MaxRequestBodySize = MostBytes + MostMultipartExtra;
        var staging = $"upload-{Guid.NewGuid():N}";
        var kept = false;
        try
        {
            var path = Path.Combine(store.Staging(staging), BringInRequest.RecordingName);
            if (await Save(context, path) is not { } fileName)
            {
                return Back(id, "No file came with the form. Choose a WAVE file first.");
            }

            if (Trouble(path, fileName, state.Split, bank) is { } trouble)
            {
                return Back(id, trouble);
            }

            kept = await queue.BringIn(id, new BringInRequest(staging, fileName, bank)) is not null;
            return Back(id, kept ? null : "This session is already printing or cutting. Wait until that is done.");
        }
        catch (IOException e) when (!context.RequestAborted.IsCancellationRequested)
        {
            return Back(id, e.Message.Contains("No space left", StringComparison.OrdinalIgnoreCase)
                ? "The disk is full, so the recording could not be taken in. Nothing of it was kept."
                : $"The recording could not be taken in: {e.Message}");
        }
        finally
        {
            if (!kept)
            {
                store.Discard(staging);
            }
        }
    }

    private static string? Refusal(long length, IAudioStore store)
    {
        if (length > MostBytes)
        {
            return $"The file is larger than {Words.Size(MostBytes)}, which is the most that is taken.";
        }

        // The recording itself and the files cut from it lie on the disk together for a while.
        return length * 2 > store.FreeBytes
            ? $"The disk is too full: the recording and its files need {Words.Size(length * 2)}, and {Words.Size(store.FreeBytes)} are free."
            : null;
    }

    private static async Task<string?> Save(HttpContext context, string path)
    {
        if (!MediaTypeHeaderValue.TryParse(context.Request.ContentType, out var type) || HeaderUtilities.RemoveQuotes(type.Boundary).Value is not { Length: > 0 } boundary)
        {
            return null;
        }

        var reader = new MultipartReader(boundary, context.Request.Body) { BodyLengthLimit = null };
        while (await reader.ReadNextSectionAsync(context.RequestAborted) is { } section)
        {
            if (section.AsFileSection() is { FileName.Length: > 0 } file)
            {
                await using var to = new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.None, 1 << 20);
                await section.Body.CopyToAsync(to, 1 << 20, context.RequestAborted);
                return Path.GetFileName(file.FileName);
            }
        }

        return null;
    }

    private static string? Trouble(string path, string fileName, Core.Splits.Split split, string bank)
    {
        var opened = WaveReader.Open(path);
        if (!opened.Ok)
        {
            return $"{fileName}: {opened.Trouble}";
        }

        using var recording = opened.Value;
        var needed = BringInJob.Lines(split, bank, t => t.Id).Max(l => l.Line.Channels[^1]);
        return needed > recording.Format.Channels
            ? $"{fileName} has {Words.Count(recording.Format.Channels, "channel")}, but the split listens as far as {split.Bank(bank)!.Label} {needed}. Choose the recording of all inputs."
            : null;
    }

    private static IResult Back(long id, string? notice) =>
        Results.LocalRedirect(notice is null ? $"/sessions/{id}/print" : $"/sessions/{id}/print?notice={Uri.EscapeDataString(notice)}");
}
