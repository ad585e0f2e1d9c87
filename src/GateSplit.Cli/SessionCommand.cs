using System.CommandLine;
using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;

namespace GateSplit.Cli;

/// <summary>Brings whole sessions into a running Gate Split and out of it, by the pages that a browser uses.</summary>
internal static partial class SessionCommand
{
    private const int MostMilliseconds = 1000;
    private const string Usual = "http://127.0.0.1:5380";
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(200);

    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var file = new Argument<FileInfo>("file") { Description = "An exported session, with or without its takes." };
        var at = new Option<string>("--at") { Description = "The address that Gate Split answers at.", DefaultValueFactory = _ => Usual };
        var bring = new Command("in", "Bring an exported session in.") { file, at };
        bring.SetAction((parsed, cancel) => Asking(parsed.GetValue(at)!, http => In(http, parsed.GetValue(file)!, cancel)));

        var number = new Argument<long>("number") { Description = "The session's number, as in the address of its pages." };
        var to = new Option<FileInfo>("--out") { Description = "The zip.", Required = true };
        var send = new Command("out", "Export a session with its takes.") { number, to, at };
        send.SetAction((parsed, cancel) => Asking(parsed.GetValue(at)!, http => Out(http, parsed.GetValue(number), parsed.GetValue(to)!, cancel)));
        return new Command("session", "Bring whole sessions in and out of a running Gate Split.") { bring, send };
    }

    private static async Task<int> Asking(string address, Func<HttpClient, Task<int>> ask)
    {
        if (!Uri.TryCreate(address, UriKind.Absolute, out var at) || at.Scheme is not ("http" or "https"))
        {
            return Guarded.Refuse($"{address} is no address such as {Usual}.");
        }

        using var http = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false, CookieContainer = new CookieContainer() }) { BaseAddress = at, Timeout = Timeout.InfiniteTimeSpan };
        try
        {
            return await ask(http);
        }
        catch (HttpRequestException e)
        {
            return Guarded.Refuse($"Gate Split does not answer at {at}: {e.Message}");
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return Guarded.Refuse($"{e.Message} Nothing half-written was left behind.");
        }
        catch (OperationCanceledException)
        {
            return Guarded.Refuse("Stopped. Nothing half-written was left behind.");
        }
    }

    private static async Task<int> In(HttpClient http, FileInfo file, CancellationToken cancel)
    {
        await using var from = file.OpenRead();
        if (Form().Match(await http.GetStringAsync("/", cancel)) is not { Success: true } form)
        {
            return Guarded.Refuse($"What answers at {http.BaseAddress} is not Gate Split, or another version of it.");
        }

        using var body = new MultipartFormDataContent { { new StreamContent(from), "session", file.Name } };
        using var answer = await http.PostAsync(WebUtility.HtmlDecode(form.Value), body, cancel);
        if (Job().Match(answer.Headers.Location?.ToString() ?? "") is not { Success: true } job)
        {
            return Guarded.Refuse(Notice().Match(await http.GetStringAsync("/", cancel)) is { Success: true } notice ? WebUtility.HtmlDecode(notice.Groups["sentence"].Value) : $"The file was not taken ({(int)answer.StatusCode}).");
        }

        using var progress = new ConsoleProgress();
        while (true)
        {
            var state = await http.GetFromJsonAsync<Progress>($"/jobs/{job.Groups["number"].Value}.json", cancel) ?? throw new IOException("Gate Split has forgotten the job.");
            progress.Report(state.Share);
            switch (state.State)
            {
                case "queued" or "running":
                    await Task.Delay(Between, cancel);
                    break;
                case "done":
                    if (state.Sentence.Length > 0)
                    {
                        Console.Error.WriteLine($"gatesplit: {state.Sentence}");
                    }

                    Console.Out.WriteLine(new Uri(http.BaseAddress!, $"/sessions/{state.SessionId}/split"));
                    return ExitCodes.Good;
                default:
                    return Guarded.Refuse(state.Sentence);
            }
        }
    }

    private static async Task<int> Out(HttpClient http, long number, FileInfo to, CancellationToken cancel)
    {
        using var answer = await http.GetAsync($"/sessions/{number}/session.zip", HttpCompletionOption.ResponseHeadersRead, cancel);
        if (answer.StatusCode != HttpStatusCode.OK)
        {
            return Guarded.Refuse(answer.StatusCode == HttpStatusCode.NotFound ? $"There is no session {number}." : await answer.Content.ReadAsStringAsync(cancel));
        }

        // It has its name only once it is whole.
        var part = to.FullName + ".part";
        try
        {
            await using (var file = new FileStream(part, FileMode.Create, FileAccess.Write))
            {
                await answer.Content.CopyToAsync(file, cancel);
            }

            File.Move(part, to.FullName, overwrite: true);
        }
        finally
        {
            File.Delete(part);
        }

        Console.Out.WriteLine(to.FullName);
        return ExitCodes.Good;
    }

    [GeneratedRegex(@"/sessions/in/files\?token=[^""]+", RegexOptions.ExplicitCapture, MostMilliseconds)]
    private static partial Regex Form();

    [GeneratedRegex(@"\?in=(?<number>\d+)$", RegexOptions.ExplicitCapture, MostMilliseconds)]
    private static partial Regex Job();

    [GeneratedRegex(@"<p class=""notice""[^>]*>(?<sentence>[^<]*)", RegexOptions.ExplicitCapture, MostMilliseconds)]
    private static partial Regex Notice();

    private sealed record Progress(string State, double Share, string Sentence, long SessionId);
}
