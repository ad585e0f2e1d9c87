using System.Text;
using System.Text.Json.Nodes;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;

namespace GateSplit.Core.Tests.Handoff;

/// <summary>An exported session damaged in one place is refused with a sentence, and nothing else ever happens.</summary>
public sealed class DamagedSessionTests
{
    /// <summary>Where in the file, what stands there instead, and words of the sentence.</summary>
    public static TheoryData<string, string, string> Damages => new()
    {
        { "version", "7", "version" },
        { "name", "null", "." },
        { "split.units", "null", "." },
        { "split.units.0.chart.ports.2.number", "\"three\"", "." },
        { "split.units.0.chart.ports.2.number", "1", "port 1 is there twice" },
        { "split.units.0.chart.groups", "[{\"name\":\"A\",\"parent\":\"A\"}]", "follow" },
        { "split.units.0.modeId", "\"gone\"", "in a mode that its chart does not have" },
        { "split.units.0.elements", "[]", "do not name every element" },
        { "split.banks.0.count", "0", "split.banks[0].count: A row has 1 to 256 inputs." },
        { "split.banks.0.off", "null", "." },
        { "split.banks.1.id", "\"b-u1\"", "split.banks[1].id: There are two rows of inputs with the id b-u1." },
        { "split.banks.0.unitId", "\"u9\"", "." },
        { "split.cables.0.channel", "99", "split.cables[0]: A cable leads from u1 99" },
        { "split.cables.0.input.bankId", "\"attic\"", "split.cables[0]: A cable leads from u1" },
        { "split.cables", "\"none\"", "." },
        { "split.trackGroups", "[{\"id\":\"g1\",\"name\":\"A\",\"sums\":true,\"levelDb\":99}]", "split.trackGroups[0].levelDb: A level goes from -120 to +12 dB." },
        { "split.trackGroups", "[{\"id\":\"g1\",\"name\":\"A\",\"sums\":true},{\"id\":\"g1\",\"name\":\"B\",\"sums\":true}]", "split.trackGroups[1].id: There are two groups with the id g1." },
        { "split.tracks.0.groupId", "\"g7\"", "split.tracks[0].groupId: Drums is in a group that is not there." },
        { "split.tracks.0.id", "\"first\"", "ids of their own: t1, t2" },
        { "split.tracks.0.pass", "0", "split.tracks[0].pass: A split has 1 to 64 passes." },
        { "split.tracks.0.input.bankId", "\"attic\"", "split.tracks[0].input: Drums listens to a row of inputs" },
        { "split.pass.settleLoops", "99", "settles for 0 to 8" },
        { "split.pass.diskBytesPerSecond", "-1", "more than nothing" },
        { "song", "\"AAAA\"", "." },
    };

    [Theory]
    [MemberData(nameof(Damages))]
    public void Damage_is_told(string place, string value, string words)
    {
        var boat = ReliefBoat.Session;
        var file = JsonNode.Parse(SessionFile.Of(boat.Name, MidiWriter.Write(boat.Song), boat.Split).ToJson())!;
        Assert.True(SessionFile.Read(Encoding.UTF8.GetBytes(file.ToJsonString())).Ok);
        var steps = place.Split('.');
        var node = file;
        foreach (var step in steps[..^1])
        {
            node = int.TryParse(step, out var index) ? node![index] : node![step];
        }

        node![steps[^1]] = JsonNode.Parse(value);
        var read = SessionFile.Read(Encoding.UTF8.GetBytes(file.ToJsonString()));
        Assert.False(read.Ok);
        Assert.Contains(words, read.Trouble, StringComparison.Ordinal);
        Assert.EndsWith(".", read.Trouble, StringComparison.Ordinal);
    }
}
