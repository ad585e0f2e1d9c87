using GateSplit.Core;
using GateSplit.Core.Handoff;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.Headers;
using Microsoft.Net.Http.Headers;

namespace GateSplit.Web.Endpoints;

/// <summary>A zip that is made while it is sent, by byte ranges too (RFC 9110, 14), since the same content makes the same bytes.</summary>
/// <param name="name">What it is called, without its ending.</param>
/// <param name="tag">Tells whether two are the same.</param>
/// <param name="length">Bytes of it.</param>
/// <param name="made">The time that its files are given.</param>
internal sealed class ZipDownload(string name, string tag, long length, DateTime made)
{
    /// <summary>Answers a request.</summary>
    /// <param name="context">The request.</param>
    /// <param name="fill">Writes the files.</param>
    /// <param name="log">Told when it breaks off.</param>
    public async Task<IResult> Send(HttpContext context, Func<ZipTarget, CancellationToken, Task> fill, ILogger log)
    {
        var entity = new EntityTagHeaderValue($"\"{tag}\"");
        var response = context.Response.GetTypedHeaders();
        response.ETag = entity;
        context.Response.Headers.AcceptRanges = "bytes";
        context.Response.ContentType = "application/zip";
        var disposition = new ContentDispositionHeaderValue("attachment");
        disposition.SetHttpFileName(FileName.Clean(name) + ".zip");
        response.ContentDisposition = disposition;
        if (Asked(context.Request.GetTypedHeaders(), entity) is not var (from, count))
        {
            response.ContentRange = new ContentRangeHeaderValue(length);
            return Results.StatusCode(StatusCodes.Status416RangeNotSatisfiable);
        }

        if (count < length)
        {
            context.Response.StatusCode = StatusCodes.Status206PartialContent;
            response.ContentRange = new ContentRangeHeaderValue(from, from + count - 1, length);
        }

        context.Response.ContentLength = count;
        if (HttpMethods.IsHead(context.Request.Method))
        {
            return Results.Empty;
        }

        // The zip writer ends each entry with a few bytes that it writes synchronously, even when asked not to.
        context.Features.Get<IHttpBodyControlFeature>()!.AllowSynchronousIO = true;
        try
        {
            await Send(context.Response.Body, (from, count), fill, context.RequestAborted);
        }
        catch (IOException e) when (!context.RequestAborted.IsCancellationRequested)
        {
            // Whoever downloads it sees that it broke off, not a zip that is wrong.
            log.LogError(e, "The download of {Name} broke off.", name);
            context.Abort();
        }

        return Results.Empty;
    }

    private async Task Send(Stream to, (long From, long Count) asked, Func<ZipTarget, CancellationToken, Task> fill, CancellationToken aborted)
    {
        using var enough = CancellationTokenSource.CreateLinkedTokenSource(aborted);
        await using var part = new PartStream(to, asked.From, asked.Count, enough.Cancel);
        try
        {
            await using var zip = await ZipTarget.Begin(part, made, enough.Token);
            await fill(zip, enough.Token);
        }
        catch (OperationCanceledException) when (part.IsComplete)
        {
            // What was asked for has gone out.
        }
    }

    /// <summary>What part of the zip is asked for: all of it, or from some byte on; null where there is no such part.</summary>
    private (long From, long Count)? Asked(RequestHeaders request, EntityTagHeaderValue entity)
    {
        var isSame = request.IfRange is not { } condition || condition.EntityTag?.Compare(entity, useStrongComparison: true) == true;
        if (!isSame || request.Range is not { Unit.Value: "bytes", Ranges.Count: 1 } range)
        {
            return (0, length);
        }

        return range.Ranges.First() switch
        {
            { From: { } from, To: var to } when from < length => (from, Math.Min(to ?? long.MaxValue, length - 1) - from + 1),
            { From: null, To: { } last } when last > 0 => (length - Math.Min(last, length), Math.Min(last, length)),
            _ => null,
        };
    }
}
