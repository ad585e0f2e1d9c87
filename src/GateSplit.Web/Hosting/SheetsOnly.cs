using GateSplit.Web.Sessions;

namespace GateSplit.Web.Hosting;

/// <summary>
/// What phones reach: sheets that somebody opened, with what their pages are made of. Nobody signs in, so all else stays on the machine itself.
/// </summary>
/// <param name="next">What follows.</param>
/// <param name="sheets">Where phones ask.</param>
public sealed class SheetsOnly(RequestDelegate next, OpenSheets sheets)
{
    private static readonly string[] Shown = ["/sheet", "/css", "/lib", "/js"];

    /// <summary>Lets through what a phone may see, and everything that comes from the machine itself.</summary>
    public Task InvokeAsync(HttpContext context)
    {
        if (context.Connection.LocalPort != sheets.Port || Array.Exists(Shown, p => context.Request.Path.StartsWithSegments(p)) || context.Request.Path == "/favicon.svg")
        {
            return next(context);
        }

        context.Response.StatusCode = StatusCodes.Status404NotFound;
        return Task.CompletedTask;
    }
}
