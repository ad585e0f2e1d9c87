using GateSplit.Core;
using GateSplit.Data;
using GateSplit.Jobs;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Mvc.ViewFeatures;

namespace GateSplit.Web.Endpoints;

/// <summary>Takes recordings made elsewhere: as a form, streamed to disk as it comes, or from uploads that were resumed.</summary>
public static class BringInEndpoints
{
    /// <summary>The most files that are taken at once.</summary>
    public const int MostFiles = 256;

    private const int LongestName = 255;
    private const string RollCall = "roll-call";

    /// <summary>Maps /sessions/{id}/bring-in and /sessions/{id}/bring-in/gather.</summary>
    public static void MapBringIn(this IEndpointRouteBuilder app)
    {
        app.MapPost("/sessions/{id:long}/bring-in/files", Receive).DisableAntiforgery();
        app.MapPost("/sessions/{id:long}/bring-in/gather", Gather);
    }

    private static async Task<IResult> Receive(long id, string token, string? to, SessionStore sessions, IAudioStore store, UploadRoom room, HttpContext context)
    {
        if (!await StreamedForm.IsOurs(context, token))
        {
            return Back(context, id, StreamedForm.TooOld, to);
        }

        if (await sessions.Head(id) is null)
        {
            return Results.NotFound();
        }

        if (room.Refusal(id, new(context.Request.ContentLength ?? 0)) is { } refusal)
        {
            return Back(context, id, refusal, to);
        }

        // A form that does not say how long it is gets what is left.
        StreamedForm.Limit(context, room.Left(id).Count);
        var filled = await Fill(context, id, to, store, folder => Save(context, folder), () => { });
        return filled.Ok ? Results.LocalRedirect(filled.Value) : Back(context, id, filled.Trouble, to);
    }

    /// <summary>Gathers uploads that have come whole, for a script: answers with the address of what goes where, or with a sentence.</summary>
    private static async Task<IResult> Gather(long id, string? to, HttpRequest request, IAudioStore store, IAntiforgery antiforgery, HttpContext context)
    {
        if (!await antiforgery.IsRequestValidAsync(context))
        {
            return Results.Text("The page is too old. Load it again.", statusCode: StatusCodes.Status400BadRequest);
        }

        var uploads = request.Form["key"].Select(k => ResumableUpload.Find(store, k ?? "")).ToList();
        if (uploads.Count is 0 or > MostFiles || uploads.Any(u => u is null || u.SessionId != id || u.Offset != u.Length))
        {
            return Results.Text("Not all of them are here.", statusCode: StatusCodes.Status409Conflict);
        }

        var filled = await Fill(
            context,
            id,
            to,
            store,
            folder =>
            {
                // The uploads stay until all is well: what cannot be taken in now need not be sent again.
                for (var i = 0; i < uploads.Count; i++)
                {
                    store.Link(uploads[i]!.DataPath, folder.Incoming(i));
                }

                return Task.FromResult<Result<IReadOnlyList<string>>>(uploads.Select(u => u!.FileName).ToList());
            },
            () => uploads.ForEach(u => u!.Discard(store)));
        return filled.Ok ? Results.Text(filled.Value) : Results.Text(filled.Trouble, statusCode: StatusCodes.Status409Conflict);
    }

    /// <summary>Fills a new folder with files and shows what is in them.</summary>
    /// <param name="context">The request.</param>
    /// <param name="id">The session.</param>
    /// <param name="to">What they are for: "roll-call", or else a take.</param>
    /// <param name="store">The audio store.</param>
    /// <param name="save">Puts the files there and gives their names.</param>
    /// <param name="done">Called once they are taken in.</param>
    /// <returns>The address at which they are shown, or a sentence.</returns>
    private static async Task<Result<string>> Fill(
        HttpContext context, long id, string? to, IAudioStore store, Func<BroughtFolder, Task<Result<IReadOnlyList<string>>>> save, Action done)
    {
        var folder = BroughtFolder.Make(store, id, new(context.Request.ContentLength ?? 0));
        var kept = false;
        try
        {
            var names = await save(folder);
            if ((names.Ok ? folder.TakeIn(names.Value) : names.Trouble) is { } trouble)
            {
                return new Refusal(trouble);
            }

            kept = true;
            done();
            return $"/sessions/{id}/{(to == RollCall ? RollCall : "bring-in")}?from={folder.Name}";
        }
        catch (IOException e) when (!context.RequestAborted.IsCancellationRequested)
        {
            return new Refusal(FullDisk.Is(e)
                ? "The disk is full, so the recording could not be taken in. Make room and send it again."
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

    /// <summary>Saves all files of a form, or says why not one of them is taken.</summary>
    private static async Task<Result<IReadOnlyList<string>>> Save(HttpContext context, BroughtFolder folder)
    {
        var names = new List<string>();
        try
        {
            await foreach (var (name, body) in StreamedForm.Files(context))
            {
                if (names.Count == MostFiles)
                {
                    return new Refusal($"More than {MostFiles} files came at once, which is the most that is taken. Nothing of them was kept.");
                }

                if (name.Length > LongestName)
                {
                    return new Refusal($"The name of a file has {name.Length} characters; {LongestName} are the most that is taken. Nothing was kept.");
                }

                await using var to = new FileStream(folder.Incoming(names.Count), FileMode.Create, FileAccess.Write, FileShare.None, 1 << 20);
                await body.CopyToAsync(to, 1 << 20, context.RequestAborted);
                names.Add(name);
            }
        }
        catch (Exception e) when (e is InvalidDataException or BadHttpRequestException || (e is IOException io && !FullDisk.Is(io) && !context.RequestAborted.IsCancellationRequested))
        {
            return new Refusal($"The form could not be read to its end, so nothing was kept: {e.Message}");
        }

        return names.Count > 0 ? names : new Refusal("No file came with the form. Choose one or several first.");
    }

    private static IResult Back(HttpContext context, long id, string notice, string? to)
    {
        var next = context.RequestServices.GetRequiredService<ITempDataDictionaryFactory>().GetTempData(context);
        next.Notify(notice);
        next.Save();
        return Results.LocalRedirect($"/sessions/{id}/{(to == RollCall ? RollCall : "print")}");
    }
}
