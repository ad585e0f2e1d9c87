using GateSplit.Core.StandIns;
using GateSplit.Web.Live;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Endpoints;

/// <summary>Listening to a session while it changes.</summary>
public static class LiveEndpoints
{
    /// <summary>Maps the web socket /sessions/{id}/live.</summary>
    public static void MapLive(this IEndpointRouteBuilder app) =>
        app.MapGet("/sessions/{id:long}/live", async (long id, string? ear, int? bar, int? pass, ClickMode? click, OpenSessions open, IHostApplicationLifetime life, HttpContext context) =>
        {
            // Pages of other origins may open web sockets, and get no sound.
            if (!context.WebSockets.IsWebSocketRequest || (context.Request.Headers.Origin is [{ } origin] && new Uri(origin).Authority != context.Request.Host.Value))
            {
                return Results.BadRequest();
            }

            if (await open.Find(id) is not var (session, findings))
            {
                return Results.NotFound();
            }

            using var socket = await context.WebSockets.AcceptWebSocketAsync();
            using var over = CancellationTokenSource.CreateLinkedTokenSource(context.RequestAborted, life.ApplicationStopping);
            if (LiveListen.Refusal(findings) is { } refusal)
            {
                await LiveListen.Refuse(socket, refusal, over.Token);
                return Results.Empty;
            }

            await new LiveListen(open, session, socket, Ear.Parse(ear), bar ?? 1, Math.Clamp(pass ?? 1, 1, session.State.Split.Passes), click ?? ClickMode.Off).Run(over.Token);
            return Results.Empty;
        });
}
