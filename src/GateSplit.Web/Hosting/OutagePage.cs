using System.Text.Encodings.Web;
using GateSplit.Jobs;

namespace GateSplit.Web.Hosting;

/// <summary>When the database is away: a page that says so and tries again, instead of a fault.</summary>
public sealed class OutagePage(RequestDelegate next, ILogger<OutagePage> log)
{
    private const string Sentence = "The database does not answer just now. Nothing is lost; this page tries again by itself every few seconds.";

    /// <summary>Runs the rest and catches an outage.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        try
        {
            await next(context);
        }
        catch (Exception e) when (Resilient.IsOutage(e) && !context.Response.HasStarted)
        {
            log.LogWarning("The database does not answer: {Message}", e.Message);
            context.Response.Clear();
            await new SecurityHeaders(_ => Task.CompletedTask).InvokeAsync(context);
            context.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
            context.Response.ContentType = "text/html; charset=utf-8";
            context.Response.Headers.RetryAfter = "3";
            var again = context.Request.Method == HttpMethods.Get ? "<meta http-equiv=\"refresh\" content=\"3\">" : "";
            await context.Response.WriteAsync(
                $"""
                <!doctype html><html lang="en"><head><meta charset="utf-8">{again}<title>Gate Split</title>
                <link rel="stylesheet" href="/css/site.css"></head>
                <body class="alone"><main><h1>Gate Split</h1><p id="sentence">{HtmlEncoder.Default.Encode(Sentence)}</p>
                <p><a href="{HtmlEncoder.Default.Encode(context.Request.Path)}">Try now</a></p></main></body></html>
                """);
        }
    }
}
