using GateSplit.Core.Demo;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>The sessions that ship.</summary>
public sealed class DemoTests
{
    [Fact]
    public async Task They_get_to_where_they_ship_though_the_server_is_killed_on_the_way()
    {
        await using var app = await TestApp.Start(whole: true);
        await using var database = Database.Open(app.ConnectionString);
        var sessions = new SessionStore(database);
        var takes = new TakeStore(database);
        var demos = new DemoStore(database, sessions);
        async Task<List<int>> Takes()
        {
            var counts = new List<int>();
            foreach (var demo in await demos.All())
            {
                counts.Add((await takes.Of(demo.SessionId)).Count);
            }

            return counts;
        }

        foreach (var there in new[] { 0, 2, 5 })
        {
            await Waiting.Until(async () => (await Takes()).Sum() >= there, $"{there} takes are there");
            app.Kill();
            await app.Launch(demo: true, whole: true);
        }

        await Waiting.Until(() => AreDone(demos), "all steps are done", () => app.Said);
        Assert.Equal(DemoSessions.All.Select(s => s.Name), (await demos.All()).Select(d => d.Name));
        Assert.Equal([1, 1, 1, 1, 3], await Takes());
        foreach (var demo in await demos.All())
        {
            var session = DemoSessions.All.Single(s => s.Name == demo.Name);
            var split = session.Steps.OfType<DemoEdit>().Aggregate(session.Split, (s, step) => step.Edit.Apply(s).Value!);
            Assert.Equal(SplitJson.Write(split), SplitJson.Write((await sessions.Load(demo.SessionId))!.Split));
        }
    }

    [Fact]
    public async Task They_get_there_though_the_database_is_away_on_the_way()
    {
        var port = TestDatabase.Port;
        using var relay = new Relay(port);
        await using var app = await TestApp.Start(connection: c => c.Replace($"Port={port}", $"Port={relay.Port}"), whole: true);
        await using var database = Database.Open(app.ConnectionString);
        var takes = new TakeStore(database);
        var demos = new DemoStore(database, new SessionStore(database));
        var second = (await demos.All())[1].SessionId;
        await Waiting.Until(async () => await takes.Count(second) == 1, "the second has its take");
        relay.Cut();
        await Waiting.Until(async () => !(await app.Http.GetAsync(new Uri("/health/ready", UriKind.Relative))).IsSuccessStatusCode, "it is noticed");
        await Task.Delay(TimeSpan.FromSeconds(2)); // the steps meet it too
        Assert.False(await AreDone(demos));
        relay.Mend();
        await Waiting.Until(() => AreDone(demos), "all steps are done", () => app.Said);
        Assert.Equal((long[])[1, 1, 1, 1, 3], await Task.WhenAll((await demos.All()).Select(d => takes.Count(d.SessionId))));
    }

    private static async Task<bool> AreDone(DemoStore demos) =>
        (await demos.All()).Select(d => d.StepsDone).SequenceEqual(DemoSessions.All.Select(s => s.Steps.Length));
}
