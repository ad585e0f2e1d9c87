using System.Globalization;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.Headers;
using Microsoft.Net.Http.Headers;

namespace GateSplit.Web.Endpoints;

/// <summary>What leaves: the zip of a handoff, and a session without audio.</summary>
public static class HandoffEndpoints
{
    /// <summary>Maps /handoffs/{id}.zip and /sessions/{id}/session.json.</summary>
    public static void MapHandoff(this IEndpointRouteBuilder app)
    {
        app.MapMethods("/handoffs/{id:long}.zip", ["GET", "HEAD"], Zip);
        app.MapMethods("/sessions/{id:long}/session.json", ["GET", "HEAD"], async (long id, SessionStore sessions) =>
            await sessions.Load(id) is { } state
                ? Results.File(SessionFile.Of(state.Name, state.Song, state.Split).ToJson(), "application/json", FileName.Clean(state.Name) + ".json")
                : Results.NotFound());
    }

    /// <summary>The zip, made while it is sent; a download that broke off goes on where it ended, since the same record makes the same bytes.</summary>
    private static async Task<IResult> Zip(long id, HandoffStore handoffs, ReadingStore readings, IAudioStore store, HttpContext context, ILogger<HandoffRecord> log)
    {
        // From here on nobody deletes what it is made from, until the answer has gone out.
        if (await handoffs.Find(id) is not var (head, record) || await readings.Begin(head.SessionId, null) is not { } reading)
        {
            return Results.NotFound();
        }

        context.Response.RegisterForDisposeAsync(reading);
        if (head.Missing(store.Find) is { Count: > 0 } missing)
        {
            return Results.Text($"This handoff cannot be made again: what it holds of {Words.List(missing, int.MaxValue)} is not in the audio store any more.", statusCode: StatusCodes.Status410Gone);
        }

        var length = head.Bytes.Count;
        var tag = new EntityTagHeaderValue(string.Create(CultureInfo.InvariantCulture, $"\"handoff-{head.Id}-{head.MadeAt.Ticks:x}\""));
        var response = context.Response.GetTypedHeaders();
        response.ETag = tag;
        context.Response.Headers.AcceptRanges = "bytes";
        context.Response.ContentType = "application/zip";
        var disposition = new ContentDispositionHeaderValue("attachment");
        disposition.SetHttpFileName(FileName.Clean($"{record.Session} handoff {head.Number}") + ".zip");
        response.ContentDisposition = disposition;
        if (Asked(context.Request.GetTypedHeaders(), tag, length) is not var (from, count))
        {
            response.ContentRange = new ContentRangeHeaderValue(length);
            return Results.StatusCode(StatusCodes.Status416RangeNotSatisfiable);
        }

        if (count < length)
        {
            context.Response.StatusCode = StatusCodes.Status206PartialContent;
            response.ContentRange = new ContentRangeHeaderValue(from, from + count - 1, length);
        }

        context.Response.ContentLength = count;
        if (HttpMethods.IsHead(context.Request.Method))
        {
            return Results.Empty;
        }

        // The zip writer ends each entry with a few bytes that it writes synchronously, even when asked not to.
        context.Features.Get<IHttpBodyControlFeature>()!.AllowSynchronousIO = true;
        var folder = $"{HandoffMaterials.StagingPrefix}{Guid.NewGuid():n}";
        try
        {
            await Send(record, new HandoffMaker(store.Find, store.Staging(folder)), context.Response.Body, (from, count), context.RequestAborted);
        }
        catch (IOException e) when (!context.RequestAborted.IsCancellationRequested)
        {
            // Whoever downloads it sees that it broke off, not a zip that is wrong.
            log.LogError(e, "Handoff {Id} broke off.", id);
            context.Abort();
        }
        finally
        {
            store.Discard(folder);
        }

        return Results.Empty;
    }

    private static async Task Send(HandoffRecord record, HandoffMaker maker, Stream to, (long From, long Count) asked, CancellationToken aborted)
    {
        using var enough = CancellationTokenSource.CreateLinkedTokenSource(aborted);
        await using var part = new PartStream(to, asked.From, asked.Count, enough.Cancel);
        try
        {
            await using var zip = await ZipTarget.Begin(part, record.Made, enough.Token);
            await record.WriteTo(maker, zip, enough.Token);
        }
        catch (OperationCanceledException) when (part.IsComplete)
        {
            // What was asked for has gone out.
        }
    }

    /// <summary>What part of the zip is asked for: all of it, or from some byte on; null where there is no such part.</summary>
    private static (long From, long Count)? Asked(RequestHeaders request, EntityTagHeaderValue tag, long length)
    {
        var isSame = request.IfRange is not { } condition || condition.EntityTag?.Compare(tag, useStrongComparison: true) == true;
        if (!isSame || request.Range is not { Unit.Value: "bytes", Ranges.Count: 1 } range)
        {
            return (0, length);
        }

        return range.Ranges.First() switch
        {
            { From: { } from, To: var to } when from < length => (from, Math.Min(to ?? long.MaxValue, length - 1) - from + 1),
            { From: null, To: { } last } when last > 0 => (length - Math.Min(last, length), Math.Min(last, length)),
            _ => null,
        };
    }
}
