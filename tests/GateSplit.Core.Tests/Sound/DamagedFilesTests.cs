using System.Text;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

/// <summary>
/// Files of every kind, damaged at random: read, or refused with a sentence, in little memory, and nothing half-written is left.
/// ./bench does the same with 10,000 of them, and measures how long the slowest takes.
/// </summary>
public sealed class DamagedFilesTests : IDisposable
{
    private const long MostBytes = 200L << 20;
    private readonly TempFolder _folder = new();

    private static int Count => int.TryParse(Environment.GetEnvironmentVariable("GATESPLIT_DAMAGED"), out var count) ? count : 3000;

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void Whatever_is_damaged_is_read_or_refused()
    {
        var seed = int.TryParse(Environment.GetEnvironmentVariable("GATESPLIT_SEED"), out var wanted) ? wanted : Random.Shared.Next();
        var random = new Random(seed);
        var files = new DamagedFiles(_folder.Root);
        for (var i = 0; i < Count; i++)
        {
            var (name, whole, read) = files.Kinds[i % files.Kinds.Count];
            var bytes = DamagedFiles.Damage(random, whole);
            var before = GC.GetAllocatedBytesForCurrentThread();
            try
            {
                read(bytes);
            }
            catch (Exception e)
            {
                Assert.Fail($"GATESPLIT_SEED={seed}, file {i} ({name}): {e}");
            }

            var took = GC.GetAllocatedBytesForCurrentThread() - before;
            Assert.True(took < MostBytes, $"GATESPLIT_SEED={seed}, file {i} ({name}) took {took} bytes");
            Assert.True(Directory.GetFiles(files.Output).All(f => Path.GetFileName(f) == "x.wav"), $"GATESPLIT_SEED={seed}, file {i} ({name}) left something half-written");
            File.Delete(Path.Combine(files.Output, "x.wav"));
        }
    }

    [Theory]
    [InlineData("\\ud800")] // half of a letter
    [InlineData("\\u0000")]
    public void Letters_that_are_none_are_refused(string letter)
    {
        var lamp = LampLit.Session;
        var json = Encoding.UTF8.GetString(SessionFile.Of("Lamp", MidiWriter.Write(lamp.Song), lamp.Split).ToJson());
        Assert.False(SessionFile.Read(Encoding.UTF8.GetBytes(json.Replace("\"Lamp\"", $"\"{letter}\""))).Ok);
        Assert.False(SessionFile.Read(Encoding.UTF8.GetBytes(json.Replace("\"Kick in\"", $"\"{letter}\""))).Ok);
    }
}
