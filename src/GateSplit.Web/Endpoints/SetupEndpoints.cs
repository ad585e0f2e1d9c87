using GateSplit.Core.Setup;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Antiforgery;

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
        app.MapPost("/sheet/{token}/ticks", async (string token, SetupStore store, OpenSessions open, IAntiforgery forgery, HttpContext context) =>
            await store.Find(token) is { } id ? await Tick(id, store, open, forgery, context) : Results.NotFound());
    }

    /// <summary>Takes ticks in: "on" and "off" as often as there are steps; without script the page that sent them comes again.</summary>
    private static async Task<IResult> Tick(long id, SetupStore store, OpenSessions open, IAntiforgery forgery, HttpContext context)
    {
        if (!await forgery.IsRequestValidAsync(context))
        {
            return Results.Text("This page is too old. Open it once more.", statusCode: StatusCodes.Status400BadRequest);
        }

        if (await open.Find(id) is not var (session, _))
        {
            return Results.NotFound();
        }

        // Steps that the sheet does not have, or not any more, are not kept: nobody fills the table with what is no step.
        var form = await context.Request.ReadFormAsync(context.RequestAborted);
        var steps = SetupSheet.Of(session.Lines).Keys.ToHashSet();
        string[] Known(string field) => [.. form[field].OfType<string>().Where(steps.Contains)];

        // A form without script sends all that are ticked and names all that there are.
        string[] on = Known("on"), off = form.ContainsKey("all") ? [.. Known("all").Except(on)] : Known("off");
        return !await store.Tick(id, on, off) ? Results.NotFound()
            : form.ContainsKey("all") ? Results.Redirect(context.Request.Path.Value![..^"/ticks".Length])
            : Results.Json(await store.Ticked(id));
    }
}
