using GateSplit.Core.Charts;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Endpoints;

/// <summary>One line alone: walked, or as sound.</summary>
public static class LineCheckEndpoints
{
    /// <summary>Maps /sessions/{id}/line-check/walk and /listen.</summary>
    public static void MapLineCheck(this IEndpointRouteBuilder app)
    {
        app.MapGet("/sessions/{id:long}/line-check/walk", async (long id, string unit, string element, bool? muted, OpenSessions open, LineWalks walks) =>
        {
            if (await open.Find(id) is not var (session, _) || !session.Lines.Sounding.Contains(new ElementRef(new UnitId(unit), new ElementId(element))))
            {
                return Results.NotFound();
            }

            walks.One(session, new ElementRef(new UnitId(unit), new ElementId(element)), muted == true);
            return Results.NoContent();
        });
        app.MapGet("/sessions/{id:long}/line-check/listen", async (long id, string unit, string element, bool? muted, OpenSessions open, HttpContext context) =>
        {
            if (await open.Find(id) is not var (session, _) || !session.Lines.Sounding.Contains(new ElementRef(new UnitId(unit), new ElementId(element))))
            {
                return Results.NotFound();
            }

            var (left, right) = new LineWalk(session.Lines) { MainMuted = muted == true }.Listen(new ElementRef(new UnitId(unit), new ElementId(element)));
            context.Response.Headers.CacheControl = "no-store";
            return Results.Bytes(WaveMemory.Write(left, right, session.State.Split.Pass.SampleRate), "audio/wav");
        });
    }
}
