using GateSplit.Core.Quantities;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;

namespace GateSplit.Web.Endpoints;

/// <summary>Takes recordings made elsewhere: as a form, streamed to disk as it comes, or from uploads that were resumed.</summary>
public static class BringInEndpoints
{
    /// <summary>The most bytes a recording may have.</summary>
    public static readonly Bytes MostBytes = new(64L << 30);

    /// <summary>The most files that are taken at once.</summary>
    public const int MostFiles = 256;

    private const long MostMultipartExtra = 1 << 20;

    /// <summary>Maps /sessions/{id}/bring-in and /sessions/{id}/bring-in/gather.</summary>
    public static void MapBringIn(this IEndpointRouteBuilder app)
    {
        app.MapPost("/sessions/{id:long}/bring-in/files", Receive).DisableAntiforgery();
        app.MapPost("/sessions/{id:long}/bring-in/gather", Gather);
    }

    /// <summary>A sentence about why so many bytes cannot be taken in; null if they can.</summary>
    internal static string? Refusal(Bytes length, IAudioStore store)
    {
        if (length > MostBytes)
        {
            return $"The file is larger than {MostBytes}, which is the most that is taken.";
        }

        // The recording itself and the files cut from it lie on the disk together for a while.
        return length * 2 > store.FreeBytes
            ? $"The disk is too full: the recording and its files need {length * 2}, and {store.FreeBytes} are free."
            : null;
    }

    private static async Task<IResult> Receive(long id, string token, SessionStore sessions, IAudioStore store, IAntiforgery antiforgery, HttpContext context)
    {
        // The form is read as a stream, so its token comes with the address and is checked like one in a header.
        context.Request.Headers["RequestVerificationToken"] = token;
        var formFeature = context.Features.Get<IFormFeature>();
        context.Features.Set<IFormFeature>(new FormFeature(FormCollection.Empty));
        var valid = await antiforgery.IsRequestValidAsync(context);
        context.Features.Set(formFeature);
        if (!valid)
        {
            return Back(id, "The page is too old. Load it again and choose the files once more.");
        }

        if (await sessions.Head(id) is null)
        {
            return Results.NotFound();
        }

        if (Refusal(new(context.Request.ContentLength ?? 0), store) is { } refusal)
        {
            return Back(id, refusal);
        }

        context.Features.Get<IHttpMaxRequestBodySizeFeature>()!.MaxRequestBodySize = MostBytes.Count + MostMultipartExtra;
        return await Fill(id, store, folder => Save(context, folder), context.RequestAborted);
    }

    /// <summary>Gathers uploads that have come whole.</summary>
    private static async Task<IResult> Gather(long id, HttpRequest request, IAudioStore store, IAntiforgery antiforgery, HttpContext context)
    {
        if (!await antiforgery.IsRequestValidAsync(context))
        {
            return Back(id, "The page is too old. Load it again and choose the files once more.");
        }

        var uploads = request.Form["key"].Select(k => ResumableUpload.Find(store, k ?? "")).ToList();
        if (uploads.Count is 0 or > MostFiles || uploads.Any(u => u is null || u.SessionId != id || u.Offset != u.Length))
        {
            return Back(id, "Not all of the files have come. Send them again; what is here already is not sent twice.");
        }

        return await Fill(
            id,
            store,
            folder =>
            {
                for (var i = 0; i < uploads.Count; i++)
                {
                    File.Move(uploads[i]!.DataPath, folder.Incoming(i));
                    uploads[i]!.Discard(store);
                }

                return Task.FromResult<IReadOnlyList<string>>([.. uploads.Select(u => u!.FileName)]);
            },
            context.RequestAborted);
    }

    private static async Task<IResult> Fill(long id, IAudioStore store, Func<BroughtFolder, Task<IReadOnlyList<string>>> save, CancellationToken aborted)
    {
        var folder = BroughtFolder.Make(store);
        var kept = false;
        try
        {
            var names = await save(folder);
            if (names.Count == 0)
            {
                return Back(id, "No file came with the form. Choose one or several first.");
            }

            if (folder.TakeIn(names) is { } trouble)
            {
                return Back(id, trouble);
            }

            kept = true;
            return Results.LocalRedirect($"/sessions/{id}/bring-in?from={folder.Name}");
        }
        catch (IOException e) when (!aborted.IsCancellationRequested)
        {
            return Back(id, e.Message.Contains("No space left", StringComparison.OrdinalIgnoreCase)
                ? "The disk is full, so the recording could not be taken in. Nothing of it was kept."
                : $"The recording could not be taken in: {e.Message}");
        }
        finally
        {
            if (!kept)
            {
                store.Discard(folder.Name);
            }
        }
    }

    private static async Task<IReadOnlyList<string>> Save(HttpContext context, BroughtFolder folder)
    {
        if (!MediaTypeHeaderValue.TryParse(context.Request.ContentType, out var type) || HeaderUtilities.RemoveQuotes(type.Boundary).Value is not { Length: > 0 } boundary)
        {
            return [];
        }

        var names = new List<string>();
        var reader = new MultipartReader(boundary, context.Request.Body) { BodyLengthLimit = null };
        while (names.Count < MostFiles && await reader.ReadNextSectionAsync(context.RequestAborted) is { } section)
        {
            if (section.AsFileSection() is { FileName.Length: > 0 } file)
            {
                await using var to = new FileStream(folder.Incoming(names.Count), FileMode.Create, FileAccess.Write, FileShare.None, 1 << 20);
                await section.Body.CopyToAsync(to, 1 << 20, context.RequestAborted);
                names.Add(Path.GetFileName(file.FileName));
            }
        }

        return names;
    }

    private static IResult Back(long id, string notice) => Results.LocalRedirect($"/sessions/{id}/print?notice={Uri.EscapeDataString(notice)}");
}
