using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>Uploads that break off and go on, by the tus protocol, spoken here by hand.</summary>
public sealed class UploadTests
{
    private const int Breaks = 20;

    [Fact]
    public async Task An_upload_cut_off_at_twenty_places_and_by_the_end_of_the_program_arrives_whole()
    {
        await using var app = await TestApp.Start();
        using var client = await Client.Of(app);
        var bytes = new byte[3_000_000];
        Random.Shared.NextBytes(bytes);
        Wave(bytes);
        var place = await client.Create("4 Cymbal.wav", bytes.Length);
        var random = new Random(7);
        for (var cut = 0; cut < Breaks; cut++)
        {
            var from = await client.Offset(place);
            await client.SendAndBreak(place, bytes, from, Math.Min(bytes.Length - 1, from + random.Next(1, 200_000)));
            if (cut == Breaks / 2)
            {
                app.Kill();
                await app.Launch(demo: true);
                await client.Renew();
            }
        }

        var offset = await client.Offset(place);
        Assert.InRange(offset, 1, bytes.Length - 1);
        Assert.Equal(HttpStatusCode.Conflict, (await client.Patch(place, bytes, offset - 1, bytes.Length)).StatusCode);
        var last = await client.Patch(place, bytes, offset, bytes.Length);
        Assert.Equal(HttpStatusCode.NoContent, last.StatusCode);
        Assert.Equal($"{bytes.Length}", last.Headers.GetValues("Upload-Offset").Single());

        // What goes where: by its name.
        var page = await client.Page(await client.Gather(place));
        Assert.Contains("1 of 12 armed tracks found", page, StringComparison.Ordinal);
        var kept = Directory.GetFiles(Path.Combine(app.Folder, "audio/staging"), "0.wav", SearchOption.AllDirectories).Single();
        Assert.Equal(bytes, await File.ReadAllBytesAsync(kept));
        Assert.Equal(HttpStatusCode.NotFound, (await client.Head(place)).StatusCode);
    }

    [Fact]
    public async Task The_protocol_is_kept_to_and_strangers_are_refused()
    {
        await using var app = await PageApp.Start();
        using var client = await Client.Of(app);
        using (var options = await app.Http.SendAsync(new HttpRequestMessage(HttpMethod.Options, "/sessions/1/uploads")))
        {
            Assert.Equal(("1.0.0", "creation,termination"), (options.Headers.GetValues("Tus-Version").Single(), options.Headers.GetValues("Tus-Extension").Single()));
        }

        using (var stranger = new HttpRequestMessage(HttpMethod.Post, "/sessions/1/uploads"))
        {
            stranger.Headers.Add("Tus-Resumable", "1.0.0");
            stranger.Headers.Add("Upload-Length", "10");
            Assert.Equal(HttpStatusCode.BadRequest, (await app.Http.SendAsync(stranger)).StatusCode);
        }

        Assert.Equal(HttpStatusCode.PreconditionFailed, (await client.Send(HttpMethod.Post, "/sessions/1/uploads", version: "0.2.0")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.Send(HttpMethod.Post, "/sessions/1/uploads")).StatusCode);
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await client.Send(HttpMethod.Post, "/sessions/1/uploads", length: 1L << 40)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.Send(HttpMethod.Post, "/sessions/999/uploads", length: 5)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.Head("/uploads/..%2f..%2fetc")).StatusCode);

        // More than was said is not taken, and what is thrown away is gone.
        var place = await client.Create("../../a.wav", 5);
        Assert.Equal(HttpStatusCode.Conflict, (await client.Patch(place, new byte[9], 0, 9)).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await client.Send(HttpMethod.Delete, place)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.Head(place)).StatusCode);

        // Only what is whole is gathered.
        var half = await client.Create("b.wav", 5);
        Assert.Contains("Not all of them are here.", await client.Gather(half), StringComparison.Ordinal);

        // What came for one session is not gathered by another, nor by a page that is not ours, and is still there then.
        var whole = await client.Create("c.wav", 1);
        Assert.Equal(HttpStatusCode.NoContent, (await client.Patch(whole, new byte[1], 0, 1)).StatusCode);
        Assert.Contains("Not all of them are here.", await client.Gather(whole, session: 1), StringComparison.Ordinal);
        Assert.Contains("The page is too old.", await client.Gather(whole, token: "forged"), StringComparison.Ordinal);
        Assert.Equal(1, await client.Offset(whole));

        // What is no sound is told, and stays as well: the others that came with it are not sent twice.
        Assert.StartsWith("c.wav: ", await client.Gather(whole), StringComparison.Ordinal);
        Assert.Equal(1, await client.Offset(whole));
        Assert.Empty(Directory.GetDirectories(Path.Combine(app.Folder, "audio/staging"), "upload-*"));
    }

    /// <summary>A header for the rest as 16 bit mono.</summary>
    private static void Wave(byte[] bytes)
    {
        using var header = new BinaryWriter(new MemoryStream(bytes));
        header.Write("RIFF"u8);
        header.Write(bytes.Length - 8);
        header.Write("WAVEfmt "u8);
        header.Write(16);
        header.Write((short)1);
        header.Write((short)1);
        header.Write(48000);
        header.Write(96000);
        header.Write((short)2);
        header.Write((short)16);
        header.Write("data"u8);
        header.Write(bytes.Length - 44);
    }

    private sealed class Client(IRunningApp app) : IDisposable
    {
        private readonly HttpClient _http = new(new HttpClientHandler()) { BaseAddress = app.Http.BaseAddress };
        private string _token = "";

        public static async Task<Client> Of(IRunningApp app)
        {
            var client = new Client(app);
            await client.Renew();
            return client;
        }

        /// <summary>Loads the page again for its token.</summary>
        public async Task Renew()
        {
            var page = await _http.GetStringAsync(new Uri("/sessions/2/print", UriKind.Relative));
            var from = page.IndexOf("data-token=\"", StringComparison.Ordinal) + "data-token=\"".Length;
            _token = WebUtility.HtmlDecode(page[from..page.IndexOf('"', from)]);
        }

        public Task<HttpResponseMessage> Send(HttpMethod method, string place, long? length = null, string version = "1.0.0", string? name = null)
        {
            var request = new HttpRequestMessage(method, place);
            request.Headers.Add("Tus-Resumable", version);
            request.Headers.Add("RequestVerificationToken", _token);
            if (length is { } bytes)
            {
                request.Headers.Add("Upload-Length", bytes.ToString(CultureInfo.InvariantCulture));
            }

            if (name is not null)
            {
                request.Headers.Add("Upload-Metadata", "filename " + Convert.ToBase64String(System.Text.Encoding.UTF8.GetBytes(name)));
            }

            return _http.SendAsync(request);
        }

        public async Task<string> Create(string name, long length)
        {
            var reply = await Send(HttpMethod.Post, "/sessions/2/uploads", length, name: name);
            Assert.Equal(HttpStatusCode.Created, reply.StatusCode);
            return reply.Headers.Location!.ToString();
        }

        public Task<HttpResponseMessage> Head(string place) => Send(HttpMethod.Head, place);

        public async Task<int> Offset(string place) =>
            int.Parse((await Head(place)).Headers.GetValues("Upload-Offset").Single(), CultureInfo.InvariantCulture);

        public Task<HttpResponseMessage> Patch(string place, byte[] bytes, int from, int to) => _http.SendAsync(PatchOf(place, from, new ByteArrayContent(bytes, from, to - from)));

        /// <summary>Says that it sends the whole rest, and breaks off on the way.</summary>
        public async Task SendAndBreak(string place, byte[] bytes, int from, int to)
        {
            using var stop = new CancellationTokenSource();
            var content = new Breaking(bytes, from, to, stop);
            await Assert.ThrowsAnyAsync<Exception>(() => _http.SendAsync(PatchOf(place, from, content), stop.Token));
            await Task.Delay(50);
        }

        public async Task<string> Gather(string place, int session = 2, string? token = null)
        {
            using var form = new FormUrlEncodedContent(new Dictionary<string, string> { ["key"] = place.Split('/')[^1], ["__RequestVerificationToken"] = token ?? _token });
            return await (await _http.PostAsync(new Uri($"/sessions/{session}/bring-in/gather", UriKind.Relative), form)).Content.ReadAsStringAsync();
        }

        public Task<string> Page(string address) => _http.GetStringAsync(new Uri(address, UriKind.Relative));

        public void Dispose() => _http.Dispose();

        private HttpRequestMessage PatchOf(string place, int from, HttpContent content)
        {
            content.Headers.ContentType = new MediaTypeHeaderValue("application/offset+octet-stream");
            var request = new HttpRequestMessage(HttpMethod.Patch, place) { Content = content };
            request.Headers.Add("Tus-Resumable", "1.0.0");
            request.Headers.Add("RequestVerificationToken", _token);
            request.Headers.Add("Upload-Offset", from.ToString(CultureInfo.InvariantCulture));
            return request;
        }

        /// <summary>A body that ends in the middle, with the connection.</summary>
        private sealed class Breaking(byte[] bytes, int from, int to, CancellationTokenSource stop) : HttpContent
        {
            protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context)
            {
                await stream.WriteAsync(bytes.AsMemory(from, to - from));
                await stream.FlushAsync();
                await Task.Delay(60);
                await stop.CancelAsync();
                throw new IOException("The cable is out.");
            }

            protected override bool TryComputeLength(out long length)
            {
                length = bytes.Length - from;
                return true;
            }
        }
    }
}
