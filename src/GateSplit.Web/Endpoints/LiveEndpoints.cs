using GateSplit.Core.StandIns;
using GateSplit.Web.Live;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Endpoints;

/// <summary>Listening to a session while it changes.</summary>
public static class LiveEndpoints
{
    /// <summary>Maps the web socket /sessions/{id}/live.</summary>
    public static void MapLive(this IEndpointRouteBuilder app) =>
        app.MapGet("/sessions/{id:long}/live", async (long id, string? ear, int? bar, int? pass, ClickMode? click, OpenSessions open, Watch<SessionNow?> watch, IHostApplicationLifetime life, HttpContext context) =>
        {
            // Pages of other origins may open web sockets, and get no sound.
            if (!context.WebSockets.IsWebSocketRequest || !IsOurs(context.Request))
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

            await new LiveListen(watch, session, socket, Ear.Parse(ear), bar ?? 1, Math.Clamp(pass ?? 1, 1, session.State.Split.Passes), click ?? ClickMode.Off).Run(over.Token);
            return Results.Empty;
        });

    /// <summary>A browser says which page it is; "null" and what is no address are none of ours. What is no browser says nothing.</summary>
    private static bool IsOurs(HttpRequest request) => request.Headers.Origin switch
    {
        [] => true,
        [{ } origin] => Uri.TryCreate(origin, UriKind.Absolute, out var page) && page.Authority == request.Host.Value,
        _ => false,
    };
}
