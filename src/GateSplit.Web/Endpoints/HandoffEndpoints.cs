using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Http.Features;

namespace GateSplit.Web.Endpoints;

/// <summary>What leaves: the zip of a take, and a session without audio.</summary>
public static class HandoffEndpoints
{
    /// <summary>Maps /sessions/{id}/handoff.zip and /sessions/{id}/session.json.</summary>
    public static void MapHandoff(this IEndpointRouteBuilder app)
    {
        app.MapMethods("/sessions/{id:long}/handoff.zip", ["GET", "HEAD"], async (
            long id, long take, string? pattern, string? format, SessionStore sessions, TakeStore takes, MendedTakes mended, ReadingStore readings, IAudioStore store, HttpContext context) =>
        {
            // From here on nobody deletes it, until the answer has gone out.
            if (await readings.Begin(id, take == 0 ? null : take) is not { } reading)
            {
                return Results.NotFound();
            }

            context.Response.RegisterForDisposeAsync(reading);
            if (await sessions.Load(id) is not { } state || await (take == 0 ? takes.Chosen(id) : takes.Find(take)) is not { } found || found.SessionId != id)
            {
                return Results.NotFound();
            }

            // The notes that go along are those that were played.
            if (found.Number != 0 && await sessions.Load(id, found.Revision) is { } then)
            {
                state = state with { Song = then.Song, SongId = then.SongId };
            }

            var made = await mended.Of(found);
            if (!made.Ok)
            {
                return Results.BadRequest(made.Trouble);
            }

            var handoff = HandoffZip.Plan(OpenSession.Of(state), found, made.Value, store, pattern ?? FileNames.DefaultPattern, HandoffFormat.Read(format));
            if (!handoff.Ok)
            {
                return Results.BadRequest(handoff.Trouble);
            }

            var name = FileName.Clean(found.Number == 0 ? $"{state.Name} what counts" : $"{state.Name} take {found.Number}") + ".zip";
            if (HttpMethods.IsHead(context.Request.Method))
            {
                return Results.File([], "application/zip", name);
            }

            // The zip writer ends each entry with a few bytes that it writes synchronously, even when asked not to.
            context.Features.Get<IHttpBodyControlFeature>()!.AllowSynchronousIO = true;
            return Results.Stream(to => handoff.Value.WriteTo(to, DateTime.Now, context.RequestAborted), "application/zip", name);
        });
        app.MapMethods("/sessions/{id:long}/session.json", ["GET", "HEAD"], async (long id, SessionStore sessions) =>
            await sessions.Load(id) is { } state
                ? Results.File(SessionFile.Of(state.Name, state.Song, state.Split).ToJson(), "application/json", FileName.Clean(state.Name) + ".json")
                : Results.NotFound());
    }
}
