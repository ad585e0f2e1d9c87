using System.Globalization;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Data;
using GateSplit.Jobs;

namespace GateSplit.Web.Endpoints;

/// <summary>What leaves: the zip of a handoff, a session whole, and one without audio.</summary>
public static class HandoffEndpoints
{
    /// <summary>Maps /handoffs/{id}.zip, /sessions/{id}/session.zip and /sessions/{id}/session.json.</summary>
    public static void MapHandoff(this IEndpointRouteBuilder app)
    {
        app.MapMethods("/handoffs/{id:long}.zip", ["GET", "HEAD"], Zip);
        app.MapMethods("/sessions/{id:long}/session.zip", ["GET", "HEAD"], Whole);
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

        var download = new ZipDownload(
            $"{record.Session} handoff {head.Number}",
            string.Create(CultureInfo.InvariantCulture, $"handoff-{head.Id}-{head.MadeAt.Ticks:x}"),
            head.Bytes.Count,
            record.Made);
        var folder = $"{HandoffMaterials.StagingPrefix}{Guid.NewGuid():n}";
        try
        {
            return await download.Send(context, (zip, enough) => record.WriteTo(new HandoffMaker(store.Find, store.Staging(folder)), zip, enough), log);
        }
        finally
        {
            store.Discard(folder);
        }
    }

    /// <summary>A whole session with its takes, made while it is sent; like a handoff it goes on where it broke off, as long as the session is as it was.</summary>
    private static async Task<IResult> Whole(long id, BundleStore bundles, ReadingStore readings, IAudioStore store, HttpContext context, ILogger<BundleWriter> log)
    {
        if (await readings.Begin(id, null) is not { } reading)
        {
            return Results.NotFound();
        }

        context.Response.RegisterForDisposeAsync(reading);
        if (await bundles.Find(id) is not { } bundle)
        {
            return Results.NotFound();
        }

        if (bundle.Audio.Where(a => store.Find(a.Stored) is null).Select(a => a.Path).ToList() is { Count: > 0 } missing)
        {
            return Results.Text($"This session cannot leave whole: {Words.List(missing, int.MaxValue)} {(missing.Count == 1 ? "is" : "are")} not in the audio store any more. Delete the takes that need {(missing.Count == 1 ? "it" : "them")}, or export it without audio.", statusCode: StatusCodes.Status410Gone);
        }

        var length = await ZipTarget.Length(bundle.Lengths, context.RequestAborted);
        return await new ZipDownload($"{bundle.Name} session", $"session-{bundle.Tag}", length, bundle.Made).Send(context, (zip, enough) => bundle.WriteTo(store.Find, zip, enough), log);
    }
}
