using GateSplit.Core.Checks;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Checks;

/// <summary>Random sessions: of a clean one nothing is said, and each planted fault is named first and mended by its one fix.</summary>
public sealed class TruthTests
{
    private const int Sessions = 60;

    public static TheoryData<string> Kinds => [.. FaultPlanter.Kinds];

    [Fact]
    public void Of_a_clean_split_nothing_is_said()
    {
        for (var seed = 0; seed < Sessions; seed++)
        {
            Assert.True(new FaultPlanter(seed).LeftOver is [], $"seed {seed}: {string.Join(" / ", new FaultPlanter(seed).LeftOver.Select(f => f.Sentence))}");
        }
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void A_planted_fault_stands_first_and_its_fix_brings_the_clean_split_back(string kind)
    {
        var planted = 0;
        for (var seed = 0; seed < Sessions; seed++)
        {
            var session = new FaultPlanter(seed);
            if (session.Plant(kind, session.Clean) is not var (faulty, check))
            {
                continue;
            }

            planted++;
            var findings = AllChecks.Look(SplitView.Of(faulty, session.Song));
            var told = $"seed {seed}: {string.Join(" / ", findings.Select(f => $"[{f.Check}{(f.Under is null ? "" : " under")}] {f.Sentence}"))}";
            Assert.True(findings.Length > 0 && findings[0].Check == check, $"{told}\n{SplitJson.Write(faulty with { Units = [] })}");
            Assert.True(findings[0].Fix is not null, told);
            Assert.True(findings.Count(f => f.ToMend) == 1, told);
            var mended = FaultPlanter.After(faulty, findings[0].Fix!);

            // A mode that is put right holds after a restart, which is told then.
            if (AllChecks.Look(SplitView.Of(mended, session.Song)).FirstOrDefault() is { Check: "Restart", Fix: { } restart })
            {
                mended = FaultPlanter.After(mended, restart);
            }

            if (FaultPlanter.ComesBackOtherwise(kind))
            {
                Assert.True(!AllChecks.Look(SplitView.Of(mended, session.Song)).Any(f => f.ToMend), told);
                continue;
            }

            Assert.True(SplitJson.Same(session.Clean, mended), $"{told}: {findings[0].FixLabel}\n{SplitJson.Write(mended with { Units = [] })}");
        }

        Assert.True(planted > 0, $"{kind} was planted {planted} times");
    }

    [Fact]
    public void Of_several_faults_at_once_each_is_named_and_pressing_the_first_fix_again_and_again_brings_the_same_files_back()
    {
        for (var seed = 0; seed < 2 * Sessions; seed++)
        {
            var session = new FaultPlanter(seed);
            var (faulty, checks) = session.PlantSeveral(2 + seed % 2);
            var (mended, named) = FaultPlanter.MendAll(faulty, session.Song);
            var told = $"seed {seed}, {string.Join(", ", checks)}: {string.Join(" / ", named.Select(f => $"[{f.Check}] {f.Sentence}"))}";
            Assert.True(checks.All(named.Select(f => f.Check).Contains), told);
            Assert.True(FaultPlanter.Files(session.Clean, session.Song).SequenceEqual(FaultPlanter.Files(mended, session.Song)), told);
        }
    }

    [Fact]
    public void Whatever_is_pressed_no_fix_makes_a_finding_of_the_weight_of_the_one_it_removes()
    {
        for (var seed = 1000; seed < 1000 + 4 * Sessions; seed++)
        {
            var session = new FaultPlanter(seed);
            var (faulty, planted) = session.PlantSeveral(2 + seed % 2);
            var before = AllChecks.Look(SplitView.Of(faulty, session.Song));
            foreach (var pressed in before.Where(f => f.Fix is not null))
            {
                var told = $"seed {seed}: [{pressed.Check}] {pressed.Sentence} <{pressed.FixLabel}>";
                var applied = pressed.Fix!.Apply(faulty);
                Assert.True(applied.Ok, $"{told}: {applied.Trouble}");

                // What another planted fault makes was there before; it is only seen now.
                var after = AllChecks.Look(SplitView.Of(applied.Value!, session.Song));
                var made = after.Where(f => f.Under is null && f.Severity >= pressed.Severity && !planted.Contains(f.Check) && before.All(b => b.Check != f.Check) && !IsTheRestOfIt(pressed.Check, f.Check)).ToList();
                Assert.True(made.Count == 0 || pressed.Under is not null, $"{told} makes {string.Join(" / ", made.Select(f => $"[{f.Check}] {f.Sentence}"))}");
            }
        }
    }

    /// <summary>A mode that is put right holds after a restart; what is recorded at last may be too loud.</summary>
    private static bool IsTheRestOfIt(string pressed, string after) => (pressed, after) is ("Mode", "Restart") or ("UnheardPort", "Level");
}
