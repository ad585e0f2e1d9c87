using System.IO.Compression;
using System.Net;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

public sealed class TakeTests(DemoApp demo) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-takes-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public async Task A_many_channel_recording_is_cut_bit_exactly_by_the_inputs_of_the_split()
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "Brought in");
        var recording = Path.Combine(_folder, "room.wav");
        var sources = string.Join('|', Enumerable.Range(0, 12).Select(c => $"(random({c})-0.5)*{c + 1}/12"));
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", $"aevalsrc={sources}:s=44100:d=2", "-c:a", "pcm_s24le", recording);
        await visitor.Get(path);
        await visitor.Send("form.bring-in", file: ("room.wav", await File.ReadAllBytesAsync(recording)));
        Assert.Contains("9 of 9 armed tracks found", visitor.Text);
        Assert.Contains("room.wav runs at 44100 Hz, the session at 48000.", visitor.Text);
        await visitor.Send("#cut-form");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 9, "the recording is cut");
        Assert.Contains("room.wav", visitor.Text);
        var tracks = visitor.Page.QuerySelectorAll(".take-track");
        for (var i = 0; i < tracks.Length; i++)
        {
            var file = Path.Combine(_folder, $"{i}.wav");
            await File.WriteAllBytesAsync(file, await visitor.Bytes($"/audio/{tracks[i].GetAttribute("data-hash")}"));
            var theirs = Programs.RunBytes("sox", recording, "-t", "s24", "-", "remix", $"{i + 3}");
            Assert.Equal(theirs, Programs.RunBytes("sox", file, "-t", "s24", "-"));
        }
    }

    [Fact]
    public async Task Damage_is_told_before_the_cut_in_the_note_and_on_the_recording()
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "Damaged");
        var whole = Path.Combine(_folder, "whole.flac");
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "anoisesrc=d=2:r=48000:a=0.5", "-c:a", "flac", whole);
        var bytes = await File.ReadAllBytesAsync(whole);
        await visitor.Get(path);
        await visitor.Send("form.bring-in", file: ("Kick.flac", bytes[..(bytes.Length / 2)]));
        Assert.Contains("Kick.flac: The file is cut off: its end cannot be read. What is there is taken.", visitor.Text);
        await visitor.Send("#cut-form");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 1, "the recording is cut");
        Assert.Matches(@"Kick\.flac: The file is cut off: it should hold 2\.00 s and holds [01]\.\d\d s\.", visitor.Text);
        Assert.Matches(@"^The file is cut off: it should hold 2\.00 s and holds [01]\.\d\d s\.$", Assert.Single(visitor.Page.QuerySelectorAll(".take-damage li")).TextContent);

        // And samples that are no numbers, which show when the cut files are measured.
        var wild = Path.Combine(_folder, "wild.wav");
        await File.WriteAllBytesAsync(Path.Combine(_folder, "wild.raw"), [.. Enumerable.Range(0, 4800).SelectMany(i => BitConverter.GetBytes(i == 7 ? float.NaN : 0.25f))]);
        Programs.Run("ffmpeg", "-v", "error", "-f", "f32le", "-ar", "48000", "-ac", "1", "-i", Path.Combine(_folder, "wild.raw"), "-c:a", "pcm_f32le", wild);
        await visitor.Send("form.bring-in", file: ("Kick.wav", await File.ReadAllBytesAsync(wild)));
        await visitor.Send("#cut-form");
        await visitor.WaitFor(path, p => p.QuerySelector("#takes-title")!.TextContent == "Take 2", "the recording is cut");
        Assert.StartsWith("1 sample is no number, infinite, or beyond", Assert.Single(visitor.Page.QuerySelectorAll(".take-damage li")).TextContent, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("clips 1×", "Clips at 0.010 s for 3 samples.", 480, 481, 482)]
    [InlineData("full scale 2×", null, 480, 481)]
    [InlineData("full scale 3×", null, 480, 481, 960)]
    [InlineData("clean", null)]
    public async Task A_file_with_a_sample_at_full_scale_is_not_called_clean(string verdict, string? place, params int[] fullAt)
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "Full scale");
        await File.WriteAllBytesAsync(Path.Combine(_folder, "full.raw"), [.. Enumerable.Range(0, 48_000).SelectMany(i => BitConverter.GetBytes(fullAt.Contains(i) ? short.MaxValue : (short)(i % 2 * 8000)))]);
        var file = Path.Combine(_folder, "full.wav");
        Programs.Run("ffmpeg", "-v", "error", "-f", "s16le", "-ar", "48000", "-ac", "1", "-i", Path.Combine(_folder, "full.raw"), file);
        await visitor.Get(path);
        await visitor.Send("form.bring-in", file: ("Kick.wav", await File.ReadAllBytesAsync(file)));
        await visitor.Send("#cut-form");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 1, "the recording is cut");
        Assert.Equal(verdict, visitor.Page.QuerySelector(".take-numbers > span:nth-of-type(3)")!.TextContent);
        Assert.Equal(place, visitor.Page.QuerySelector(".take-damage li")?.TextContent);

        // 0.01 of 1 s in 1120 columns.
        Assert.Equal(place is null ? [] : ["11.2"], visitor.Page.QuerySelectorAll(".wave .clip").Select(c => c.GetAttribute("x1")));
    }

    [Fact]
    public async Task What_is_cut_is_what_was_shown_though_the_session_has_moved_on()
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "Moved on");
        var file = Path.Combine(_folder, "kick.wav");
        Programs.Run("sox", "-n", "-r", "48000", "-b", "16", "-c", "1", file, "synth", "0.2", "sine", "440");
        await visitor.Get(path);
        await visitor.Send("form.bring-in", file: ("Kick.wav", await File.ReadAllBytesAsync(file)));
        using var other = new Visitor(demo.App);
        await other.Get(path.Replace("/print", "/split?line=track%3At1", StringComparison.Ordinal));
        await other.Send("form:has(input[value='rename'])", new Dictionary<string, string> { ["name"] = "Bass drum" });

        // What was chosen by hand is still chosen, the change is told, and nothing was cut yet.
        await visitor.Send("#cut-form", new Dictionary<string, string> { ["of:t2"] = "0:1" });
        Assert.Contains("changed in another window meanwhile, so nothing was cut yet", visitor.Notice);
        Assert.Contains("Bass drum", visitor.Text);
        Assert.Equal("0:1", visitor.Page.QuerySelector("select[name='of:t2'] option[selected]")!.GetAttribute("value"));
        await visitor.Send("#cut-form");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 2, "the recording is cut");
        Assert.Equal(["Bass drum", "Snare"], visitor.Page.QuerySelectorAll(".take-name").Select(n => n.TextContent.Trim()));
    }

    [Theory]
    [InlineData("text", "no sound file that can be read here")]
    [InlineData("none", "no channels")]
    public async Task A_recording_that_does_not_fit_is_told_and_nothing_of_it_is_kept(string what, string words)
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "Bad " + what);
        var file = Path.Combine(_folder, "bad.wav");
        Programs.Run("sox", "-n", "-r", "48000", "-b", "16", "-c", "2", file, "synth", "0.1", "sine", "440");
        var bytes = await File.ReadAllBytesAsync(file);
        if (what == "none")
        {
            bytes[22] = 0;
        }

        await visitor.Get(path);
        await visitor.Send("form.bring-in", file: ("bad.wav", what == "text" ? "dear diary"u8.ToArray() : bytes));
        Assert.Contains(words, visitor.Notice);
        Assert.Empty(Directory.GetDirectories(Path.Combine(demo.App.Folder, "audio/staging"), "upload-*"));
    }

    [Fact]
    public async Task What_goes_where_is_corrected_by_hand_before_it_is_cut()
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "By hand");
        var pair = Path.Combine(_folder, "two.flac");
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "aevalsrc='random(0)-0.5|random(1)-0.5':s=48000:d=1", "-sample_fmt", "s16", pair);
        await visitor.Get(path);
        await visitor.Send("form.bring-in", file: ("two.flac", await File.ReadAllBytesAsync(pair)));
        Assert.Contains("0 of 9 armed tracks found", visitor.Text);
        Assert.Contains("Nothing is taken from two.flac.", visitor.Text);
        await visitor.Send("#cut-form");
        Assert.Equal("Nothing was chosen for any track.", visitor.Notice);

        // What is chosen by hand stays when the rest is given in order.
        await visitor.Send("#cut-form", new Dictionary<string, string> { ["of:t3"] = "0:1", ["order"] = "true" });
        Assert.Contains("2 of 9 armed tracks found", visitor.Text);
        Assert.Equal([("of:t1", "0:2"), ("of:t3", "0:1")], visitor.Page.QuerySelectorAll("#bring-lines option[selected]")
            .Where(o => o.GetAttribute("value") != "").Select(o => (o.ParentElement!.GetAttribute("name")!, o.GetAttribute("value")!)));
        Assert.Equal(["in order", "by hand"], visitor.Page.QuerySelectorAll("#bring-lines td.sub").Select(c => c.TextContent).Where(c => c != ""));
        Assert.Null(visitor.Page.QuerySelector("#in-order")); // nothing is left
        await visitor.Send("#cut-form", new Dictionary<string, string> { ["of:t1"] = "", ["of:t3"] = "" });
        Assert.Equal("Nothing was chosen for any track.", visitor.Notice);
        await visitor.Send("#cut-form", new Dictionary<string, string> { ["of:t2"] = "0:2" });
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 1, "the second channel is kept");
        var file = Path.Combine(_folder, "one.wav");
        await File.WriteAllBytesAsync(file, await visitor.Bytes($"/audio/{visitor.Page.QuerySelector(".take-track")!.GetAttribute("data-hash")}"));
        Assert.Equal(Programs.RunBytes("sox", pair, "-t", "s16", "-", "remix", "2"), Programs.RunBytes("sox", file, "-t", "s16", "-"));
        Assert.Equal("Snare", visitor.Page.QuerySelector(".take-track")!.GetAttribute("data-name"));
    }

    [Fact]
    public async Task What_runs_at_another_rate_is_converted_if_somebody_asks_for_it()
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "Other rate");
        var sine = Path.Combine(_folder, "Kick.wav");
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "aevalsrc=0.5*sin(2*PI*997*t):s=44100:d=1", "-c:a", "pcm_s24le", sine);
        await visitor.Get(path);
        await visitor.Send("form.bring-in", file: ("Kick.wav", await File.ReadAllBytesAsync(sine)));
        await visitor.Send("#cut-form", new Dictionary<string, string> { ["convert"] = "true" });
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 1, "it is kept");
        Assert.Contains("Kick.wav was converted from 44100 to 48000 Hz.", visitor.Text);
        var file = Path.Combine(_folder, "kept.wav");
        await File.WriteAllBytesAsync(file, await visitor.Bytes($"/audio/{visitor.Page.QuerySelector(".take-track")!.GetAttribute("data-hash")}"));
        Assert.Equal("48000", Programs.Run("soxi", "-r", file));
        var samples = Programs.Samples(file);
        Assert.Equal(48000, samples.Length);
        Assert.All(Enumerable.Range(1000, 46000), i => Assert.InRange(samples[i] - 0.5 * Math.Sin(2 * Math.PI * 997 * i / 48000), -0.0006, 0.0006));
    }

    [Fact]
    public async Task Audio_is_served_by_ranges_and_a_handoff_converts()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.WaitFor("/sessions/1/print", p => p.QuerySelectorAll(".take-track").Length == 12, "the demo take is printed");
        var hash = visitor.Page.QuerySelector(".take-track[data-name='Snare top']")!.GetAttribute("data-hash");
        using var request = new HttpRequestMessage(HttpMethod.Get, $"/audio/{hash}");
        request.Headers.Range = new System.Net.Http.Headers.RangeHeaderValue(0, 3);
        using var reply = await demo.App.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.PartialContent, reply.StatusCode);
        Assert.Equal("RIFF"u8.ToArray(), await reply.Content.ReadAsByteArrayAsync());

        var zip = Path.Combine(_folder, "lamp.zip");
        await File.WriteAllBytesAsync(zip, await visitor.HandOff("/sessions/1", "?format=pcm16&pattern=%7Bsession%7D%20%7Bnn%7D%20%7Belement%7D"));
        await ZipFile.ExtractToDirectoryAsync(zip, _folder);
        var file = Path.Combine(_folder, "lines/Lamp Lit 03 Snare top.wav");
        Assert.Equal("16", Programs.Run("soxi", "-b", file));
        await File.WriteAllBytesAsync(Path.Combine(_folder, "24.wav"), await visitor.Bytes($"/audio/{hash}"));
        var (wide, narrow) = (Programs.Samples(Path.Combine(_folder, "24.wav")), Programs.Samples(file));
        Assert.Equal(wide.Length, narrow.Length);
        Assert.True(wide.Zip(narrow, (a, b) => Math.Abs(a - b)).Max() <= 1.5f / 32768 + 1e-7f); // two steps of dither and half a step of rounding
    }

    [Fact]
    public async Task Pressing_print_twice_makes_one_take()
    {
        using var one = new Visitor(demo.App);
        using var two = new Visitor(demo.App);
        var path = await NewDrums(one, "Pressed twice");
        await one.Get(path);
        await two.Get(path);
        await Task.WhenAll(one.Send("#start"), two.Send("#start"));
        await one.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 9 && p.QuerySelector("#job") is null, "the take is there");
        Assert.Single(one.Page.QuerySelectorAll("a[href^='?take=']"));
    }

    [Fact]
    public async Task A_deleted_session_takes_its_audio_with_it()
    {
        using var visitor = new Visitor(demo.App);
        var path = await NewDrums(visitor, "Short lived");
        await visitor.Get(path);
        await visitor.Send("form[action*='Pass']", new Dictionary<string, string> { ["tail"] = "1.2345" }); // files like no other session's
        await visitor.Send("#start");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 9, "the take is there");
        var hashes = visitor.Page.QuerySelectorAll(".take-track").Select(t => t.GetAttribute("data-hash")!).ToList();
        string Stored(string hash) => Path.Combine(demo.App.Folder, "audio/files", hash[..2], hash);
        Assert.All(hashes, h => Assert.True(File.Exists(Stored(h))));
        var id = path.Split('/')[2];
        await visitor.Get("/");
        Assert.Contains("with 1 take and", visitor.Text);
        await visitor.Send($"form[action*='Delete']:has(input[value='{id}'])");
        Assert.All(hashes, h => Assert.False(File.Exists(Stored(h))));
    }

    private static async Task<string> NewDrums(Visitor visitor, string name) => $"{await visitor.NewSession(name)}/print";
}
