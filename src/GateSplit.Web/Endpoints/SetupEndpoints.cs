using GateSplit.Core.Setup;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.Extensions.Primitives;

namespace GateSplit.Web.Endpoints;

/// <summary>Setup sheets as text, and the ticks on them.</summary>
public static class SetupEndpoints
{
    /// <summary>Maps /sessions/{id}/setup.txt, and /ticks beneath a session's sheet and beneath one that is open to phones.</summary>
    public static void MapSetup(this IEndpointRouteBuilder app)
    {
        app.MapGet("/sessions/{id:long}/setup.txt", async (long id, OpenSessions open) => await open.Find(id) is var (session, _)
            ? Results.Text(SetupSheet.Of(session.Lines).ToText($"{session.State.Name}: setup sheet"), "text/plain; charset=utf-8")
            : Results.NotFound());
        app.MapGet("/sessions/{id:long}/setup/ticks", async (long id, SetupStore store) => Results.Json(await store.Ticked(id)));
        app.MapPost("/sessions/{id:long}/setup/ticks", Tick);
        app.MapGet("/sheet/{token}/ticks", async (string token, SetupStore store) => await store.Find(token) is { } id ? Results.Json(await store.Ticked(id)) : Results.NotFound());
        app.MapPost("/sheet/{token}/ticks", async (string token, SetupStore store, HttpContext context) => await store.Find(token) is { } id ? await Tick(id, store, context) : Results.NotFound());
    }

    /// <summary>Takes ticks in: "on" and "off" as often as there are steps; without script the page that sent them comes again.</summary>
    private static async Task<IResult> Tick(long id, SetupStore store, HttpContext context)
    {
        var form = await context.Request.ReadFormAsync(context.RequestAborted);
        if (form["on"].Count + form["off"].Count > SetupStore.MostAtOnce || form["on"].Concat(form["off"]).Any(s => s is null || s.Length > SetupStore.LongestStep))
        {
            return Results.Text("These are no ticks of a setup sheet.", statusCode: StatusCodes.Status400BadRequest);
        }

        // A form without script sends all that are ticked and names all that there are.
        string[] on = Known(form["on"]), off = form.ContainsKey("all") ? [.. Known(form["all"]).Except(on)] : Known(form["off"]);
        return !await store.Tick(id, on, off) ? Results.NotFound()
            : form.ContainsKey("all") ? Results.Redirect(context.Request.Path.Value![..^"/ticks".Length])
            : Results.Json(await store.Ticked(id));
    }

    private static string[] Known(StringValues values) => [.. values.OfType<string>()];
}
