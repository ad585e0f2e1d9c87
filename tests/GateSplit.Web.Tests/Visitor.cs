using System.Net;
using AngleSharp;
using AngleSharp.Dom;
using AngleSharp.Html.Dom;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>Somebody with a browser without script: reads pages and sends their forms.</summary>
public sealed class Visitor : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(5);

    private readonly HttpClient _http;

    /// <summary>Opens a browser.</summary>
    /// <param name="app">The application.</param>
    public Visitor(IRunningApp app) => _http = new HttpClient(new HttpClientHandler { CookieContainer = Cookies })
    {
        BaseAddress = new Uri($"http://127.0.0.1:{app.Port}"),
        Timeout = Patience,
    };

    /// <summary>Its cookies.</summary>
    public CookieContainer Cookies { get; } = new();

    /// <summary>The page seen last.</summary>
    public IDocument Page { get; private set; } = null!;

    /// <summary>The status of the last reply.</summary>
    public HttpStatusCode Status { get; private set; }

    /// <summary>What the page says, with white space folded.</summary>
    public string Text => string.Join(' ', Page.Body!.TextContent.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    /// <summary>The sentence at the top of the page; empty for none.</summary>
    public string Notice => Page.QuerySelector(".notice")?.TextContent.Trim() ?? "";

    /// <summary>Goes to a page.</summary>
    public async Task<IDocument> Get(string path) => await See(await _http.GetAsync(new Uri(path, UriKind.Relative)));

    /// <summary>Bytes of a file.</summary>
    public Task<byte[]> Bytes(string path) => _http.GetByteArrayAsync(new Uri(path, UriKind.Relative));

    /// <summary>Sends a form of the page seen last.</summary>
    /// <param name="css">The form, or a control in it.</param>
    /// <param name="fields">What is filled in.</param>
    /// <param name="file">A file for its file input.</param>
    public async Task<IDocument> Send(string css, IReadOnlyDictionary<string, string>? fields = null, (string Name, byte[] Bytes)? file = null)
    {
        var found = Page.QuerySelector(css) ?? throw new InvalidOperationException($"There is no {css} on the page: {Text}");
        var owner = found.GetAttribute("form");
        var form = found as IHtmlFormElement ?? (IHtmlFormElement)(owner is null ? found.Closest("form")! : Page.GetElementById(owner)!);
        var controls = form.QuerySelectorAll("input, select, textarea")
            .Concat(form.Id is { Length: > 0 } formId ? Page.QuerySelectorAll($"input[form='{formId}'], select[form='{formId}']") : [])
            .ToList();
        var pressed = found is IHtmlButtonElement { Name.Length: > 0 } button ? [(button.Name!, button.Value!)] : Array.Empty<(string, string)>();
        var values = controls.OfType<IHtmlInputElement>().Where(i => i.Type is not ("checkbox" or "file") || (i.Type == "checkbox" && i.IsChecked)).Select(i => (i.Name!, i.Value))
            .Concat(controls.OfType<IHtmlSelectElement>().Select(s => (s.Name!, s.Value!)))
            .Concat(pressed)
            .Where(v => v.Item1 is not null && fields?.ContainsKey(v.Item1) != true)
            .Concat(fields?.Select(f => (f.Key, f.Value)) ?? []);
        HttpContent content;
        if (form.Enctype == "multipart/form-data")
        {
            var parts = new MultipartFormDataContent();
            foreach (var (name, value) in values)
            {
                parts.Add(new StringContent(value), name);
            }

            if (file is { } sent)
            {
                parts.Add(new ByteArrayContent(sent.Bytes), form.QuerySelector("input[type=file]")!.GetAttribute("name")!, sent.Name);
            }

            content = parts;
        }
        else
        {
            content = new FormUrlEncodedContent(values.Select(v => KeyValuePair.Create(v.Item1, v.Item2)));
        }

        return await See(await _http.PostAsync(new Uri(form.GetAttribute("action") ?? Page.Location.PathName, UriKind.RelativeOrAbsolute), content));
    }

    /// <summary>Makes a new session of one source, with every line laid.</summary>
    /// <returns>The start of the addresses of its pages.</returns>
    /// <param name="name">Its name.</param>
    /// <param name="chart">Its source.</param>
    /// <param name="ticked">True to tick what is to be set on the source, as somebody does who has set it.</param>
    public async Task<string> NewSession(string name, string chart = "mudlark-nine", bool ticked = true)
    {
        const string Settings = ".finding form:has(input[value^='Settings'])";
        await Get("/");
        await Send("form:has(#new-name)", new Dictionary<string, string> { ["name"] = name, ["charts"] = chart });
        var path = Page.QuerySelector(".station")!.GetAttribute("href")!;
        path = path[..path.LastIndexOf('/')];
        await Get($"{path}/split");
        while (ticked && Page.QuerySelector(Settings) is not null)
        {
            await Send(Settings);
        }

        return path;
    }

    /// <summary>Makes a handoff of a session as it is asked for, and downloads it.</summary>
    /// <param name="path">The start of the addresses of its pages.</param>
    /// <param name="query">What is asked for: "?take=1"; nothing for what leaves by itself.</param>
    /// <returns>The zip.</returns>
    public async Task<byte[]> HandOff(string path, string query = "")
    {
        await Get($"{path}/handoff{query}");
        var before = Page.QuerySelectorAll(".made a").Length;
        await Send("form:has(#make)");
        await WaitFor($"{path}/handoff", p => p.QuerySelector("#handoff-job") is null && p.QuerySelectorAll(".made a").Length > before, "the handoff is made");
        return await Bytes(Page.QuerySelector(".made a")!.GetAttribute("href")!);
    }

    /// <summary>Loads a page again and again until something holds.</summary>
    public async Task WaitFor(string path, Func<IDocument, bool> condition, string what)
    {
        for (var end = DateTime.UtcNow + Patience; !condition(await Get(path));)
        {
            if (DateTime.UtcNow > end)
            {
                throw new TimeoutException($"Waited until {what}; the page says: {Text}");
            }

            await Task.Delay(150);
        }
    }

    public void Dispose() => _http.Dispose();

    private async Task<IDocument> See(HttpResponseMessage reply)
    {
        Status = reply.StatusCode;
        var html = await reply.Content.ReadAsStringAsync();
        var address = reply.RequestMessage!.RequestUri!;
        Page = await BrowsingContext.New().OpenAsync(r => r.Content(html).Address(address));
        return Page;
    }
}
