using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;

namespace GateSplit.Web.Endpoints;

/// <summary>A form with large files, which is read as a stream.</summary>
internal static class StreamedForm
{
    /// <summary>What is said where a form came from a page that is not ours, or too old.</summary>
    public const string TooOld = "The page is too old. Load it again and choose the files once more.";

    /// <summary>Bytes of a form that are no file: boundaries and heads.</summary>
    public const long MostExtra = 1 << 20;

    /// <summary>Checks its token, which comes with the address and is checked like one in a header.</summary>
    public static async Task<bool> IsOurs(HttpContext context, string token)
    {
        context.Request.Headers["RequestVerificationToken"] = token;
        var formFeature = context.Features.Get<IFormFeature>();
        context.Features.Set<IFormFeature>(new FormFeature(FormCollection.Empty));
        var valid = await context.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(context);
        context.Features.Set(formFeature);
        return valid;
    }

    /// <summary>Takes at most so many bytes of files.</summary>
    public static void Limit(HttpContext context, long bytes) => context.Features.Get<IHttpMaxRequestBodySizeFeature>()!.MaxRequestBodySize = bytes + MostExtra;

    /// <summary>The files of a form, one after the other, each to be read before the next.</summary>
    public static async IAsyncEnumerable<(string Name, Stream Body)> Files(HttpContext context)
    {
        var boundary = MediaTypeHeaderValue.TryParse(context.Request.ContentType, out var type) ? HeaderUtilities.RemoveQuotes(type.Boundary).Value : null;
        var reader = new MultipartReader(boundary ?? "", context.Request.Body) { BodyLengthLimit = null };
        while (boundary is { Length: > 0 } && await reader.ReadNextSectionAsync(context.RequestAborted) is { } section)
        {
            if (section.AsFileSection() is { FileName.Length: > 0 } file)
            {
                yield return (Path.GetFileName(file.FileName.Replace('\\', '/')), section.Body);
            }
        }
    }
}
