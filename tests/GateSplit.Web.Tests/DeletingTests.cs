using System.IO.Compression;
using System.Net;
using GateSplit.Data;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>
/// Sessions of one source print the same audio to the byte. They are printed, their takes and they themselves deleted in random orders,
/// while others print; every page of what stays is whole at any time.
/// </summary>
public sealed class DeletingTests
{
    private const int Steps = 14;

    public static TheoryData<int> Seeds => [.. Enumerable.Range(1, 3)];

    [Theory]
    [MemberData(nameof(Seeds))]
    public async Task In_whatever_order_takes_and_sessions_go_every_page_of_what_stays_is_whole(int seed)
    {
        await using var app = await PageApp.Start(demo: false);
        await using var database = Database.Open(app.ConnectionString);
        var jobs = new JobStore(database);
        using var visitor = new Visitor(app);
        var random = new Random(seed);
        var sessions = new List<string>();
        var seen = 0;
        for (var step = 0; step < Steps; step++)
        {
            if (sessions.Count < 3)
            {
                sessions.Add(await Make(visitor, $"Session {step}"));
            }

            var path = sessions[random.Next(sessions.Count)];
            switch (random.Next(6))
            {
                case < 3:
                    await visitor.Get($"{path}/print");
                    await visitor.Send("#start");
                    break;
                case < 5:
                    await visitor.Get($"{path}/print");
                    var takes = visitor.Page.QuerySelectorAll(".toolbar-end a[href^='?take=']").Select(a => a.GetAttribute("href")!).ToList();
                    if (takes.Count > 0)
                    {
                        await visitor.Get($"{path}/print{takes[random.Next(takes.Count)]}");
                        await visitor.Send("form[action*='Delete']");
                    }

                    break;
                default:
                    await visitor.Get("/");
                    await visitor.Send($"form[action*='Delete']:has(input[value='{path.Split('/')[2]}'])");
                    if (await Gone(visitor, path))
                    {
                        sessions.Remove(path);
                    }

                    break;
            }

            // Some steps come while a print runs, and some after it.
            if (random.Next(2) == 0)
            {
                await Idle(jobs, sessions);
            }

            seen += await Whole(visitor, sessions);
        }

        await Idle(jobs, sessions);
        seen += await Whole(visitor, sessions);
        Assert.True(seen > Steps, $"only {seen} times a take was there to look at");
    }

    private static async Task<string> Make(Visitor visitor, string name)
    {
        var path = await visitor.NewSession(name);
        await visitor.Get($"{path}/print");
        await visitor.Send("form:has(#pass-bars)", new Dictionary<string, string> { ["bars"] = "1", ["tail"] = "0" });
        await visitor.Send("#start");
        return path;
    }

    private static async Task<bool> Gone(Visitor visitor, string path)
    {
        await visitor.Get($"{path}/print");
        return visitor.Status == HttpStatusCode.NotFound;
    }

    private static Task Idle(JobStore jobs, IReadOnlyList<string> sessions) => Waiting.Until(
        async () =>
        {
            foreach (var path in sessions)
            {
                if ((await jobs.Current(long.Parse(path.Split('/')[2]))).Any(j => j.IsActive))
                {
                    return false;
                }
            }

            return true;
        },
        "nothing prints");

    /// <summary>Looks at every take of every session: its page, its waveforms, its files and its zip.</summary>
    /// <returns>How many takes there were.</returns>
    private static async Task<int> Whole(Visitor visitor, IReadOnlyList<string> sessions)
    {
        var seen = 0;
        foreach (var path in sessions)
        {
            await visitor.Get($"{path}/print");
            foreach (var take in visitor.Page.QuerySelectorAll(".toolbar-end a[href^='?take=']").Select(a => a.GetAttribute("href")!).ToList())
            {
                await visitor.Get($"{path}/print{take}");
                Assert.Equal(HttpStatusCode.OK, visitor.Status);
                Assert.Empty(visitor.Page.QuerySelectorAll(".take-damage"));
                var tracks = visitor.Page.QuerySelectorAll(".take-track").ToList();
                Assert.NotEmpty(tracks);
                foreach (var track in tracks)
                {
                    Assert.StartsWith("M", track.QuerySelector(".wave path")!.GetAttribute("d"), StringComparison.Ordinal);
                    var bytes = await visitor.Bytes($"/audio/{track.GetAttribute("data-hash")}");
                    var samples = long.Parse(track.GetAttribute("data-frames")!) * int.Parse(track.GetAttribute("data-channels")!) * int.Parse(track.GetAttribute("data-bits")!) / 8;
                    Assert.Equal(long.Parse(track.GetAttribute("data-offset")!) + samples, bytes.Length);
                }

                using var zip = new ZipArchive(new MemoryStream(await visitor.HandOff(path, take)));
                Assert.Equal(tracks.Count, zip.Entries.Count(e => e.FullName.StartsWith("lines/", StringComparison.Ordinal) || e.FullName.StartsWith("effects/", StringComparison.Ordinal)));
                seen++;
            }
        }

        return seen;
    }
}
