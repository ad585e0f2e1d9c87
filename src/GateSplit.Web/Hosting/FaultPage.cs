using System.Text.Encodings.Web;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Diagnostics;

namespace GateSplit.Web.Hosting;

/// <summary>
/// When a page cannot be made: a sentence instead of a fault. An outage of the database tries again by itself; what cannot be read is told
/// with its place; anything else gets a number under which the log has all of it.
/// </summary>
public sealed class FaultPage(RequestDelegate next, ILogger<FaultPage> log)
{
    private const string Slow = "The database takes too long to answer just now. Look again in a while.";
    private const string SlowChange = "The database takes too long to answer just now, so nobody knows whether this was kept. Look before you do it again.";
    private const string Outage = "The database does not answer just now. Nothing is lost; this page tries again by itself every few seconds.";

    /// <summary>Runs the rest and catches what it throws.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        try
        {
            await next(context);
        }
        catch (Exception e) when (Resilient.IsSlow(e) && !context.Response.HasStarted)
        {
            log.LogWarning("The database is slow: {Message}", e.Message);
            await Tell(context, StatusCodes.Status503ServiceUnavailable, HttpMethods.IsGet(context.Request.Method) ? Slow : SlowChange, "Look again", context.Request.Path);
        }
        catch (Exception e) when (e is BadHttpRequestException or InvalidDataException or AntiforgeryValidationException && !context.Response.HasStarted)
        {
            var status = (e as BadHttpRequestException)?.StatusCode ?? StatusCodes.Status400BadRequest;
            log.LogInformation("{Method} {Path} could not be read: {Message}", context.Request.Method, context.Request.Path, e.Message);
            await Tell(context, status, $"{Sentence(status)} Nothing was changed.", "To the sessions", "/");
        }
        catch (Exception e) when (Resilient.IsOutage(e) && !context.Response.HasStarted)
        {
            log.LogWarning("The database does not answer: {Message}", e.Message);
            var again = context.Request.Method == HttpMethods.Get ? "<meta http-equiv=\"refresh\" content=\"3\">" : "";
            await Tell(context, StatusCodes.Status503ServiceUnavailable, Outage, "Try now", context.Request.Path, again);
        }
        catch (UnreadableException e) when (!context.Response.HasStarted)
        {
            log.LogError("{Sentence}", e.Message);
            await Tell(context, StatusCodes.Status500InternalServerError, $"{e.Message} Nothing was changed; all else goes on.", "To the sessions", "/");
        }
        catch (Exception e) when (e is not OperationCanceledException && !context.Response.HasStarted)
        {
            var number = Guid.NewGuid().ToString("N")[..8];
            log.LogError(e, "Fault {Fault} at {Method} {Path}", number, context.Request.Method, context.Request.Path);
            await Tell(
                context,
                StatusCodes.Status500InternalServerError,
                $"Something went wrong here that should not. What you had kept is as it was. The log has it under the number {number}.",
                "To the sessions",
                "/");
        }
    }

    /// <summary>A page for an answer that would otherwise be empty.</summary>
    public static Task TellStatus(StatusCodeContext status)
    {
        var response = status.HttpContext.Response;
        return Tell(status.HttpContext, response.StatusCode, Sentence(response.StatusCode), "To the sessions", "/", keepHeaders: true);
    }

    private static string Sentence(int status) => status switch
    {
        StatusCodes.Status400BadRequest => "This request cannot be understood. If it came from a page, the page is too old: load it again.",
        StatusCodes.Status404NotFound => "The address leads to nothing, or what it led to has been deleted.",
        StatusCodes.Status405MethodNotAllowed => "Nothing can be done in this way at this address.",
        StatusCodes.Status408RequestTimeout => "The request came so slowly that nobody waited for its end.",
        StatusCodes.Status409Conflict => "This does not fit what is here by now. Load the page again.",
        StatusCodes.Status411LengthRequired => "A request of this kind has to say how long it is.",
        StatusCodes.Status412PreconditionFailed => "This is asked for in a version that is not spoken here.",
        StatusCodes.Status413PayloadTooLarge => "This is larger than what is taken here.",
        StatusCodes.Status414UriTooLong => "The address is too long.",
        StatusCodes.Status415UnsupportedMediaType => "This is of a kind that is not taken here.",
        StatusCodes.Status416RangeNotSatisfiable => "The file does not reach that far.",
        StatusCodes.Status423Locked => "Somebody else is sending the same just now.",
        StatusCodes.Status431RequestHeaderFieldsTooLarge => "The head of the request is too long.",
        _ => $"This could not be done (status {status}).",
    };

    private static async Task Tell(HttpContext context, int status, string sentence, string link, string address, string head = "", bool keepHeaders = false)
    {
        if (!keepHeaders)
        {
            context.Response.Clear();
        }

        await new SecurityHeaders(_ => Task.CompletedTask).InvokeAsync(context);
        context.Response.StatusCode = status;
        context.Response.ContentType = "text/html; charset=utf-8";
        var title = status switch
        {
            StatusCodes.Status404NotFound => "This is not here",
            StatusCodes.Status503ServiceUnavailable => "Not just now",
            >= StatusCodes.Status500InternalServerError => "Something went wrong",
            _ => "That cannot be done",
        };
        if (status == StatusCodes.Status503ServiceUnavailable)
        {
            context.Response.Headers.RetryAfter = "3";
        }

        await context.Response.WriteAsync(
            $"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            <meta name="color-scheme" content="light dark">{head}<title>{title} · Gate Split</title><link rel="icon" href="/favicon.svg" type="image/svg+xml">
            <link rel="stylesheet" href="/lib/bootstrap.min.css"><link rel="stylesheet" href="/css/site.css"><script src="/js/theme.js"></script></head>
            <body><header class="top"><a class="brand" href="/"><svg class="brand-mark" viewBox="0 0 22 22" aria-hidden="true"><path d="M1 7h7l4 4h9M1 15h7l4-4M14 3v5M14 14v5" /></svg>Gate Split</a></header>
            <main id="main"><section class="empty"><h1>{title}</h1><p id="sentence">{HtmlEncoder.Default.Encode(sentence)}</p>
            <p><a class="btn btn-act" href="{HtmlEncoder.Default.Encode(address)}">{link}</a></p></section></main></body></html>
            """);
    }
}
