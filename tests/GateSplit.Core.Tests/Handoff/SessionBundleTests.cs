using System.Buffers.Binary;
using System.Text;
using GateSplit.Core.Handoff;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Handoff;

/// <summary>A whole session leaves as one zip and is read back the same; whatever is wrong with it is told.</summary>
public sealed class SessionBundleTests : IDisposable
{
    private readonly TempFolder _folder = new();
    private readonly BundleWriter _bundle;

    public SessionBundleTests()
    {
        _bundle = TravellingSession.Make(_folder["stairs"]);
        TravellingSession.Write(_bundle, Whole);
    }

    private string Whole => _folder["whole.zip"];

    private string Packed => _folder["packed.zip"];

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void What_leaves_is_read_back_the_same_and_checked_by_other_tools()
    {
        Programs.Run("unzip", "-tqq", Whole);
        Programs.Run("bash", "-c", $"mkdir '{_folder["out"]}' && cd '{_folder["out"]}' && unzip -q ../whole.zip && sha256sum -c --strict --quiet SHA256SUMS");
        Assert.Equal(_bundle.Lengths.Select(f => f.Path).Order(StringComparer.Ordinal), System.IO.Directory.GetFiles(_folder["out"], "*", SearchOption.AllDirectories).Select(f => Path.GetRelativePath(_folder["out"], f)).Order(StringComparer.Ordinal));
        using var read = Open(Whole);
        var session = read.Session;
        Assert.Equal(File.ReadAllBytes(_folder["out/bundle.json"]), session.ToJson());
        Assert.Equal(("Stairs, whole", 7, 2), (session.Name, session.Revision, session.Takes.Length));
        Assert.Equal([("Line 1", "Ärger, “noisy”", 1), ("Line 3", "", 3), ("Line 1", "Ärger, “noisy”", 1), ("Line 2", "", 2)], read.Tracks.Select(t => (t.Track.Name, t.Track.Remark, t.Track.Position)));
        Assert.Equal([typeof(MoveTake), typeof(TurnPolarity)], session.Takes[0].Mends.Select(m => m.GetType()));
        Assert.Equal([typeof(MoveTake)], session.Takes[0].Settled.Select(m => m.GetType()));
        Assert.Equal((0, 2), (read.Now.File.Split.Pass.SettleLoops, read.Revisions[4].File.Split.Pass.SettleLoops));
        Assert.True(SplitJson.Same(TravellingSession.Split, read.Now.File.Split));
        Assert.Equal([1], read.Notes.Keys);
        Assert.Equal(TravellingSession.OwnChart.Name, Assert.Single(read.Charts).Name);
        Assert.Equal(_bundle.AudioBytes, read.AudioBytes);
        foreach (var (i, (_, track)) in read.Tracks.Index())
        {
            Assert.Null(read.TakeOut(track, _folder["x.wav"], CancellationToken.None));
            Assert.Equal(File.ReadAllBytes(_bundle.Audio[i].Stored), File.ReadAllBytes(_folder["x.wav"]));
        }
    }

    [Fact]
    public async Task The_same_session_makes_the_same_bytes_and_is_as_long_as_was_said()
    {
        var again = TravellingSession.Make(_folder["stairs"]);
        TravellingSession.Write(again, Packed);
        Assert.Equal(File.ReadAllBytes(Whole), File.ReadAllBytes(Packed));
        Assert.Equal(_bundle.Tag, again.Tag);
        Assert.Equal(new FileInfo(Whole).Length, await ZipTarget.Length(_bundle.Lengths, CancellationToken.None));

        // Another recording is another session, though nothing else of it is.
        using var read = Open(Whole);
        Assert.NotEqual(_bundle.Tag, new BundleWriter(read.Session, [], [.. _bundle.Audio.Select(a => a with { Stored = "b" })]).Tag);
        Assert.NotEqual(new BundleWriter(read.Session, [], _bundle.Audio).Tag, new BundleWriter(read.Session with { Name = "Stairs" }, [], _bundle.Audio).Tag);
    }

    [Fact]
    public async Task A_zip_of_more_than_4_GiB_is_whole_for_other_tools_and_as_long_as_was_said()
    {
        const long large = (1L << 32) + 5;
        var block = new byte[1 << 22];
        (string Path, long Bytes)[] files = [("first.wav", 7), ("lines/large.wav", large), ("last.txt", 3)];
        var cancel = TestContext.Current.CancellationToken;
        await using (var file = File.Create(Packed))
        {
            await using var sent = System.IO.Pipelines.PipeWriter.Create(file).AsStream();
            await using var zip = await ZipTarget.Begin(sent, new DateTime(2026, 11, 28), cancel);
            foreach (var (path, bytes) in files)
            {
                await zip.Write(
                    path,
                    async to =>
                    {
                        for (var left = bytes; left > 0; left -= block.Length)
                        {
                            await to.WriteAsync(block.AsMemory(0, (int)Math.Min(left, block.Length)), cancel);
                        }
                    },
                    cancel);
            }
        }

        Assert.Equal(new FileInfo(Packed).Length, await ZipTarget.Length(files, cancel));
        Programs.Run("unzip", "-tqq", Packed);
        Assert.Contains($"{large}", Programs.Run("unzip", "-l", Packed));
        Assert.Equal("This zip is no session with its takes: what it is made of is not listed in it.", Trouble());
    }

    [Fact]
    public void A_folder_that_another_tool_has_packed_is_read()
    {
        Programs.Run("bash", "-c", $"mkdir '{_folder["out"]}' && cd '{_folder["out"]}' && unzip -q ../whole.zip && echo hello > read.me && sed -i 's/  / */' SHA256SUMS && python3 -m zipfile -c ../packed.zip *");
        Assert.Null(Trouble());
    }

    /// <summary>Where in bundle.json, what stands there instead, and words of the sentence.</summary>
    public static TheoryData<string, string, string> Misfits => new()
    {
        { "name", "\" \"", "session.name: A session needs a name of 1 to 120 characters." },
        { "name", "null", "session.name" },
        { "revision", "5", "session.revision: There is no such revision." },
        { "revisions", "[]", "session.revision: There is no such revision." },
        { "revisions", "null", "session.revisions" },
        { "revisions.1", "null", "session.revisions[1]: There is nothing where something belongs." },
        { "revisions.1.number", "7", "made from an earlier one" },
        { "revisions.0.parent", "null", "" },
        { "revisions.0.parent", "7", "session.revisions[0].parent: A revision was made from an earlier one that is there too." },
        { "revisions.0.parent", "3", "session.revisions[0].parent: A revision was made from an earlier one that is there too." },
        { "revisions.1.number", "0", "session.revisions[0].parent" },
        { "revisions.0.steps", "0", "session.revisions[0].steps: A revision stands for one edit at least." },
        { "revisions.0.steps", "1", "" },
        { "revisions.0.file", "\"../session.json\"", "session.revisions[0].file: A file's path within the bundle is needed here." },
        { "revisions.0.file", "\"none.json\"", "none.json" },
        { "revisions.0.file", "\"SHA256SUMS\"", "SHA256SUMS is not among the sums" },
        { "revisions.0.made", "\"2026-11-28T10:20:30\"", "session.revisions[0].made: A time in UTC is needed here" },
        { "revisions.0.made", "\"1979-12-31T23:59:59Z\"", "session.revisions[0].made" },
        { "revisions.0.made", "\"1980-01-01T00:00:00Z\"", "" },
        { "takes.0.number", "0", "session.takes[0].number: Takes are counted from 1." },
        { "takes.1.number", "1", "session.takes[1].number: Take 1 is there twice." },
        { "takes.0.revision", "5", "session.takes[0].revision: There is no such revision." },
        { "takes.0.notes", "\"bundle.json\"", "bundle.json: " },
        { "takes.0.notes", "\"/etc/passwd\"", "session.takes[0].notes: A file's path within the bundle is needed here." },
        { "takes.0.tracks", "[]", "session.takes[0].tracks: A take has at least one track." },
        { "takes.0.tracks.0", "null", "session.takes[0].tracks[0]: There is nothing where something belongs." },
        { "takes.0.tracks.0.position", "0", "session.takes[0].tracks[0].position: Places are counted from 1." },
        { "takes.0.tracks.0.position", "2", "" },
        { "takes.0.tracks.0.position", "3", "session.takes[0].tracks: The tracks stand in the order of their places." },
        { "takes.0.tracks.1.trackId", "\"t1\"", "session.takes[0].tracks[1].trackId: Track t1 is there twice." },
        { "takes.0.tracks.0.trackId", "\"kick\"", "session.takes[0].tracks[0].trackId: A track has an id such as t1." },
        { "takes.0.tracks.0.pass", "64", "" },
        { "takes.0.tracks.0.pass", "65", "session.takes[0].tracks[0].pass" },
        { "takes.0.tracks.0.pass", "0", "session.takes[0].tracks[0].pass" },
        { "takes.0.tracks.0.family", "\"cowbells\"", "session.takes[0].tracks[0].family" },
        { "takes.0.tracks.0.file", "\"takes\\\\1\"", "session.takes[0].tracks[0].file" },
        { "takes.0.tracks.0.file", "\"c:kick.wav\"", "session.takes[0].tracks[0].file" },
        { "takes.0.tracks.0.file", "\"takes/3/01 Line.wav\"", "takes/3/01 Line.wav stands for two things." },
        { "revisions.1.file", "\"session.json\"", "session.json stands for two things." },
        { "takes.0.tracks.0.file", "\"takes/9.wav\"", "takes/9.wav, the recording of Line 1 in take 1, is missing." },
        { "takes.0.tracks.0.file", "\"bundle.json\"", "bundle.json is no WAVE file." },
        { "takes.0.mends.0.mend", "\"polish\"", "session.takes[0].mends" },
        { "takes.0.onTrial", "2", "" },
        { "takes.0.onTrial", "3", "session.takes[0].onTrial: No more mends can be on trial than there are." },
        { "takes.0.onTrial", "-1", "session.takes[0].onTrial" },
        { "takes.0.accepted.0.finding", "\"\"", "session.takes[0].accepted[0]" },
        { "choices.0.take", "3", "" },
        { "choices.0.take", "2", "session.choices[0]: There is no such line of such a take." },
        { "choices.0.trackId", "\"t77\"", "session.choices[0]: There is no such line of such a take." },
        { "rollCalls.0.pass", "2", "session.rollCalls[0].reading: This is no roll call that can have been read." },
        { "rollCalls.0.files.0", "null", "session.rollCalls[0].files" },
        { "rollCalls.0.reading.floors", "[]", "session.rollCalls[0].reading" },
        { "rollCalls.0.reading.turns", "[]", "session.rollCalls[0].reading" },
        { "rollCalls.0.reading.turns.0.arrivals.0.channel", "0", "session.rollCalls[0].reading" },
        { "rollCalls.0.reading.turns.0.arrivals.0.polarity", "2", "session.rollCalls[0].reading" },
        { "rollCalls.0.reading.turns.0.signature.0", "1.5", "session.rollCalls[0].reading" },
        { "rollCalls.0.reading.turns.0.turn.key", "4", "session.rollCalls[0].reading" },
        { "rollCalls.0.reading.call.turns.0.hits", "[]", "session.rollCalls[0].reading" },
        { "rollCalls.0.reading.call.turns.0.elements", "[]", "session.rollCalls[0].reading" },
        { "charts.0", "\"bundle.json\"", "bundle.json: This is no chart" },
    };

    [Theory]
    [MemberData(nameof(Misfits))]
    public void What_does_not_fit_is_told_with_its_place(string place, string value, string words)
    {
        TravellingSession.Repack(Whole, Packed, files => TravellingSession.Put(files, place, value));
        var trouble = Trouble();
        if (words.Length == 0)
        {
            Assert.Null(trouble);
            return;
        }

        Assert.Contains(words, trouble, StringComparison.Ordinal);
        Assert.EndsWith(".", trouble, StringComparison.Ordinal);
    }

    [Fact]
    public void Another_format_and_a_newer_version_are_told()
    {
        TravellingSession.Repack(Whole, Packed, files => Text(files, "bundle.json", "gate-split-bundle", "another"));
        Assert.Equal("bundle.json: This is no session with its takes.", Trouble());
        TravellingSession.Repack(Whole, Packed, files => Text(files, "bundle.json", "\"version\":1", "\"version\":2"));
        Assert.Equal("bundle.json: This session has version 2 of the format; 1 is the newest that is read here.", Trouble());
    }

    [Fact]
    public void Files_that_are_exchanged_missing_or_more_than_listed_are_told()
    {
        // Both are whole recordings of one length, each under the other's name.
        TravellingSession.Repack(Whole, Packed, files => { }, sums => sums.Replace("takes/1/01", "X").Replace("takes/3/01", "takes/1/01").Replace("X", "takes/3/01"));
        Assert.Equal("takes/1/01 Line.wav is damaged: its SHA-256 sum is not the one in SHA256SUMS.", Trouble());
        TravellingSession.Repack(Whole, Packed, files => files.Remove("takes/3/02 Line.wav"));
        Assert.Equal("takes/3/02 Line.wav, the recording of Line 2 in take 3, is missing.", Trouble());
        TravellingSession.Repack(Whole, Packed, files => files.Remove("session.json"));
        Assert.Equal("session.json is not among the sums of SHA256SUMS.", Trouble());
        TravellingSession.Repack(Whole, Packed, files => { }, sums => sums[(sums.IndexOf('\n') + 1)..]);
        Assert.Equal("bundle.json is not among the sums of SHA256SUMS.", Trouble());
        TravellingSession.Repack(Whole, Packed, files => { }, sums => sums.ToUpperInvariant().Replace("  ", " "));
        Assert.Equal("SHA256SUMS is no list of SHA-256 sums.", Trouble());
        TravellingSession.Repack(Whole, Packed, files => { }, sums => sums + sums);
        Assert.Equal("SHA256SUMS is no list of SHA-256 sums.", Trouble());
        TravellingSession.Repack(Whole, Packed, files => files["other/thing.txt"] = [1]);
        Assert.Null(Trouble());
        TravellingSession.Repack(Whole, Packed, files => { }, sums => string.Concat(sums.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(l => $"{l[..64].ToUpperInvariant()}{l[64..]}\r\n")));
        Assert.Null(Trouble()); // as tools of another system write them
    }

    [Theory]
    [InlineData("../../escape.txt")]
    [InlineData("/etc/escape.txt")]
    [InlineData("takes/../escape.txt")]
    [InlineData("takes//escape.txt")]
    [InlineData("C:escape.txt")]
    [InlineData("takes\\..\\escape.txt")]
    public void A_name_that_leads_out_of_its_folder_is_refused(string name)
    {
        TravellingSession.Repack(Whole, Packed, files => files[name] = [1]);
        Assert.Equal("This zip holds a file whose name leads out of its folder, or that no system takes.", Trouble());
    }

    [Fact]
    public void A_name_that_is_there_twice_is_refused()
    {
        Programs.Run("python3", "-W", "ignore", "-c", $"import zipfile, shutil; shutil.copy('{Whole}', '{Packed}'); z = zipfile.ZipFile('{Packed}', 'a'); z.writestr('bundle.json', '{{}}'); z.close()");
        Assert.Equal("This zip holds bundle.json twice.", Trouble());
    }

    [Theory]
    [InlineData("bundle.json", 1L << 30, "bundle.json says that it has 1.1 GB; 67.1 MB are the most that are read.")]
    [InlineData("takes/1/01 Line.wav", 1L << 30, "")]
    public void A_length_that_is_claimed_is_not_believed(string name, long length, string words)
    {
        var bytes = File.ReadAllBytes(Whole);
        var at = Directory(bytes, name);
        BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(at + 24), (uint)length);
        _folder.Write("packed.zip", bytes);
        var trouble = Trouble()!;
        Assert.Contains(words, trouble, StringComparison.Ordinal);
        Assert.EndsWith(".", trouble, StringComparison.Ordinal);
    }

    [Fact]
    public void A_claim_of_a_million_million_bytes_is_refused()
    {
        // A field of zip64 (APPNOTE.TXT 4.5.3) that says so, put in by hand where the directory names the file.
        var bytes = File.ReadAllBytes(Whole).ToList();
        var at = Directory([.. bytes], "takes/1/01 Line.wav");
        var name = BinaryPrimitives.ReadUInt16LittleEndian([.. bytes[(at + 28)..(at + 30)]]);
        var field = new byte[12];
        BinaryPrimitives.WriteUInt16LittleEndian(field, 1);
        BinaryPrimitives.WriteUInt16LittleEndian(field.AsSpan(2), 8);
        BinaryPrimitives.WriteInt64LittleEndian(field.AsSpan(4), 1L << 40);
        var end = bytes.Count - 22;
        var size = BinaryPrimitives.ReadUInt32LittleEndian([.. bytes[(end + 12)..(end + 16)]]);
        var whole = bytes.ToArray();
        BinaryPrimitives.WriteUInt32LittleEndian(whole.AsSpan(at + 24), uint.MaxValue);
        BinaryPrimitives.WriteUInt16LittleEndian(whole.AsSpan(at + 30), (ushort)field.Length);
        BinaryPrimitives.WriteUInt32LittleEndian(whole.AsSpan(end + 12), size + (uint)field.Length);
        _folder.Write("packed.zip", [.. whole[..(at + 46 + name)], .. field, .. whole[(at + 46 + name)..]]);
        using (var opened = Open(Packed))
        {
            Assert.True(opened.AudioBytes > new Bytes(1L << 40)); // whoever takes it out asks for room first
        }

        Assert.EndsWith(".", Trouble(), StringComparison.Ordinal);
        Assert.True(new FileInfo(_folder["x.wav"]).Length < 100_000);
    }

    [Fact]
    public void A_directory_that_begins_too_early_is_not_read()
    {
        var bytes = new byte[(16 << 20) + 100];
        "PK\x03\x04"u8.CopyTo(bytes);
        "PK\x05\x06"u8.CopyTo(bytes.AsSpan(bytes.Length - 22));
        BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(bytes.Length - 6), 4);
        _folder.Write("packed.zip", bytes);
        Assert.Equal("This zip lists more files than any session has.", Trouble());
    }

    [Fact]
    public void A_zip_that_is_cut_anywhere_is_refused()
    {
        var bytes = File.ReadAllBytes(Whole);
        for (var length = 0; length < bytes.Length; length += 997)
        {
            _folder.Write("packed.zip", bytes.AsSpan(0, length));
            Assert.StartsWith("This zip is damaged: ", Trouble(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public void What_is_another_zip_is_told()
    {
        Programs.Run("python3", "-c", $"import zipfile; z = zipfile.ZipFile('{Packed}', 'w'); z.writestr('manifest.json', '{{}}'); z.close()");
        Assert.StartsWith("This is a handoff, not a session with its takes.", Trouble(), StringComparison.Ordinal);
        Programs.Run("python3", "-c", $"import zipfile; z = zipfile.ZipFile('{Packed}', 'w'); z.writestr('a.txt', 'a'); z.close()");
        Assert.StartsWith("This zip is no session with its takes", Trouble(), StringComparison.Ordinal);
    }

    [Fact]
    public void A_handoff_of_it_is_made_of_what_counts_with_its_mends_and_what_belonged_to_it()
    {
        using var bundle = Open(Whole);
        var material = BundleMaterial.Of(bundle, bundle.Tracks.Index().ToDictionary(t => t.Item.Track, t => Stored(t.Index), (IEqualityComparer<BundledTrack>)ReferenceEqualityComparer.Instance)).Value!;
        Assert.Equal([("Line 1", 3), ("Line 3", 1)], material.Lines.Select(l => (l.Name, l.Take.Number))); // the newest take; the one that was chosen
        Assert.Equal((false, true), (material.Lines[0].Mended, material.Lines[1].Mended));
        Assert.Equal(480, material.Lines[1].Plan.Start); // 10 ms earlier; the other mend of that take is on trial
        Assert.Equal([1.0, 0.0], material.Lines[1].Plan.Gains[0]);
        Assert.Equal("Ärger, “noisy”", material.Lines[0].Remark);
        Assert.Contains("All tracks 10.00 ms earlier", Assert.Single(material.Mends));
        Assert.Contains("Line 1", Assert.Single(material.OnTrial));
        Assert.Equal((2, 0), (material.Lines[1].Take.View.Split.Pass.SettleLoops, material.Mix.Pass.SettleLoops));
        Assert.Equal((false, true), (material.Lines[0].Take.Printed, material.Lines[1].Take.Printed));
    }

    private BundleMaterial.Stored Stored(int i)
    {
        using var wave = WaveReader.Open(_bundle.Audio[i].Stored).Value!;
        return new(_bundle.Audio[i].Stored, wave.Format, wave.Frames, []);
    }

    private static BundleReader Open(string path) => BundleReader.Open(path) is { Ok: true } opened ? opened.Value : throw new InvalidOperationException(BundleReader.Open(path).Trouble);

    private string? Trouble() => TravellingSession.Trouble(Packed, _folder["x.wav"]);

    private static void Text(SortedDictionary<string, byte[]> files, string name, string old, string now) =>
        files[name] = Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(files[name]).Replace(old, now));

    /// <summary>Where the directory of a zip names a file.</summary>
    private static int Directory(byte[] bytes, string name)
    {
        var at = bytes.AsSpan().LastIndexOf(Encoding.UTF8.GetBytes(name)) - 46;
        Assert.True(bytes.AsSpan(at, 4).SequenceEqual("PK\x01\x02"u8));
        return at;
    }
}
