using GateSplit.Tests.Shared;

namespace GateSplit.Browser.Tests;

/// <summary>Every page in both themes, looked at by axe-core.</summary>
public sealed class AccessibilityTests(DemoApp demo)
{
    private static readonly string[] Paths =
        ["/", "/shelf", "/shelf/heron-ten", "/sessions/2/sources", "/sessions/2/recorder", "/sessions/3/recorder", "/sessions/3/split", "/sessions/2/lay?anew=true&pan=true", "/sessions/1/line-check?walk=true", "/sessions/2/line-check", "/sessions/1/ride?of=u1%2Fhat&control=Filter", "/sessions/1/print?show=chosen", "/sessions/1/print?line=t3", "/sessions/1/split", "/sessions/2/split", "/sessions/2/split?line=element%3Au1%2Fclap&all=true", "/sessions/2/split?line=track%3At3", "/sessions/2/split?line=unit%3Au1", "/sessions/1/print", "/sessions/2/print", "/sessions/1/handoff", "/sessions/2/handoff", "/gear?open=u1", "/templates", "/sessions/1/templates", "/sessions/2/setup", "/sessions/1/setup?beside=2", "/?ask=true"];

    [Theory]
    [InlineData("light")]
    [InlineData("dark")]
    public void Axe_finds_nothing(string theme)
    {
        using var browser = new Browser(demo.App.Port);
        browser.Open("/sessions/1/print");
        browser.WaitUntil(
            () =>
            {
                browser.Open("/sessions/1/print");
                return browser.All(".take-track").Count == 12;
            },
            "the demo take is printed");
        browser.Open("/gear");
        if (browser.All("#own").Count == 0)
        {
            browser.ClickButton("Add the row");
            browser.WaitUntil(() => browser.All("#rows").Count == 1, "the row is there");
            browser.ClickButton("Add it");
            browser.WaitUntil(() => browser.All("#own").Count == 1, "the source is there");
        }

        browser.Driver.ExecuteScript($"localStorage.setItem('theme', '{theme}')");
        browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromMinutes(5); // a busy machine takes its time
        var axe = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "lib/axe.min.js"));
        foreach (var path in Paths)
        {
            browser.Open(path);
            browser.Driver.ExecuteScript(axe);
            var found = browser.Driver.ExecuteAsyncScript(
                "const done = arguments[0]; axe.run().then(r => done(JSON.stringify(r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target.join(' ') + ' ' + n.failureSummary).join(' | ')))))");
            Assert.True((string?)found == "[]", $"{path} in {theme}: {found}");
        }

        Assert.DoesNotContain(browser.Complaints, c => !c.Contains("404"));
    }
}
