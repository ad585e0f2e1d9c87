using System.Collections.Concurrent;
using System.Diagnostics;
using GateSplit.Mutate;

// ./mutate FOLDER [--faults N] [--seed N]: plants faults in a folder of the core, one at a time, and says which ones no test notices.
var folder = args[0];
var faults = int.Parse(Value("--faults") ?? "80");
var seed = int.Parse(Value("--seed") ?? $"{Random.Shared.Next(1, 100_000)}");
var root = Directory.GetCurrentDirectory();
var tests = Path.Combine(root, "tests/GateSplit.Core.Tests/bin/Release/net10.0");
var equivalent = File.ReadAllLines(Path.Combine(root, "tools/GateSplit.Mutate/equivalent.txt")).Where(l => l.Length > 0 && l[0] != '#').ToHashSet();
var subject = Subject.Read(root, tests);
var random = new Random(seed);
var candidates = subject.Faults(folder).ToArray();
random.Shuffle(candidates);
if (candidates.Length == 0)
{
    Console.Error.WriteLine($"There is no folder {folder} in the core, or nothing in it where a fault could be planted.");
    return 2;
}

// The tests that take long look only at their own folder: what is said to be noticed is noticed by the others too.
string[] leftOut = [folder, "ArchitectureTests", "StandIns", "Sound"];
var work = Directory.CreateTempSubdirectory("gate-split-mutate-").FullName;
var benches = new ConcurrentBag<string>(Enumerable.Range(0, Environment.ProcessorCount).Select(MakeBench));
var watch = Stopwatch.StartNew();
try
{
    var first = Borrow();
    subject.Build(null, Path.Combine(first, "GateSplit.Core.dll"));
    var own = Run(first, Only(folder), TimeSpan.FromMinutes(5));
    benches.Add(first);
    if (!own.Passed || own.Total == 0)
    {
        Console.Error.WriteLine($"The tests of {folder} fail without any fault, or there are none.");
        return 1;
    }

    var planted = new ConcurrentQueue<Fault>(candidates);
    var told = new ConcurrentBag<(Fault Fault, string? Noticed)>();
    var left = faults;
    Parallel.For(0, Environment.ProcessorCount, _ =>
    {
        while (Volatile.Read(ref left) > 0 && planted.TryDequeue(out var fault))
        {
            if (equivalent.Contains(Line(fault)))
            {
                continue;
            }

            var bench = Borrow();
            try
            {
                if (!subject.Build(fault, Path.Combine(bench, "GateSplit.Core.dll")) || Interlocked.Decrement(ref left) < 0)
                {
                    continue;
                }

                var limit = TimeSpan.FromSeconds(10 + 4 * own.Seconds);
                var noticed = !Run(bench, Only(folder), limit).Passed ? "own"
                    : !Run(bench, Without(leftOut), TimeSpan.FromMinutes(3)).Passed ? "others"
                    : null;
                told.Add((fault, noticed));
                if (noticed is null)
                {
                    Console.WriteLine(Line(fault));
                }
            }
            finally
            {
                benches.Add(bench);
            }
        }
    });
    var killed = told.Count(t => t.Noticed is not null);
    Console.WriteLine($"| {folder} | {candidates.Length} | {told.Count} | {told.Count(t => t.Noticed == "own")} | {told.Count(t => t.Noticed == "others")} | {told.Count - killed} | {100.0 * killed / told.Count:0.0} % | {seed} | {watch.Elapsed.TotalMinutes:0.0} min |");
    return 100 * killed >= 85 * told.Count ? 0 : 1;
}
finally
{
    Directory.Delete(work, recursive: true);
}

static string[] Only(params string[] folders) => [.. folders.SelectMany(f => (string[])["-namespace", $"GateSplit.Core.Tests.{f}", "-namespace", $"GateSplit.Core.Tests.{f}.*"])];

static string[] Without(params string[] names) =>
    [.. names.SelectMany(n => (string[])["-namespace-", $"GateSplit.Core.Tests.{n}", "-namespace-", $"GateSplit.Core.Tests.{n}.*", "-class-", $"GateSplit.Core.Tests.{n}"])];

string? Value(string name) => Array.IndexOf(args, name) is >= 0 and var at ? args[at + 1] : null;

static string Line(Fault fault) => $"{fault.File}:{fault.Line} {fault.Kind}: {fault.Before} -> {fault.After}";

string Borrow()
{
    string? bench;
    while (!benches.TryTake(out bench))
    {
        Thread.Sleep(10);
    }

    return bench;
}

string MakeBench(int number)
{
    var to = Path.Combine(work, $"bench-{number}", "tests", "GateSplit.Core.Tests", "bin", "Release", "net10.0");
    foreach (var file in Directory.EnumerateFiles(tests, "*", SearchOption.AllDirectories))
    {
        var copy = Path.Combine(to, Path.GetRelativePath(tests, file));
        Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
        File.Copy(file, copy);
    }

    return to;
}

static (bool Passed, int Total, double Seconds) Run(string bench, string[] tests, TimeSpan limit)
{
    var start = new ProcessStartInfo("dotnet") { RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false, WorkingDirectory = bench };
    foreach (var argument in (string[])[Path.Combine(bench, "GateSplit.Core.Tests.dll"), "-noColor", "-stopOnFail", .. tests])
    {
        start.ArgumentList.Add(argument);
    }

    var watch = Stopwatch.StartNew();
    using var process = Process.Start(start)!;
    var said = process.StandardOutput.ReadToEndAsync();
    var complained = process.StandardError.ReadToEndAsync();
    if (!process.WaitForExit(limit))
    {
        process.Kill(entireProcessTree: true);
        return (false, 0, watch.Elapsed.TotalSeconds);
    }

    var total = System.Text.RegularExpressions.Regex.Match(said.Result + complained.Result, "(?<=Total: )[0-9]+", System.Text.RegularExpressions.RegexOptions.None, TimeSpan.FromSeconds(5));
    return (process.ExitCode == 0, total.Success ? int.Parse(total.Value) : 0, watch.Elapsed.TotalSeconds);
}
