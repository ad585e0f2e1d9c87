using GateSplit.Tests.Shared;

namespace GateSplit.Browser.Tests;

/// <summary>Several files brought in by the field, sent by the library's own upload, looked at, and cut.</summary>
public sealed class BringInTests
{
    [Fact]
    public async Task Several_files_are_sent_shown_and_cut()
    {
        await using var app = await PageApp.Start();
        var folder = Directory.CreateTempSubdirectory("gate-split-bring-").FullName;
        try
        {
            var files = new[] { "01 Kick.wav", "02 Snare.flac", "Low tom.aiff" }.Select(name => Path.Combine(folder, name)).ToList();
            foreach (var file in files)
            {
                Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "anoisesrc=d=3:r=48000:a=0.5", file);
            }

            using var browser = new Browser(app.Port);
            browser.Open("/sessions/2/print");
            browser.Send("#recording", string.Join('\n', files));
            browser.ClickButton("Bring them in");
            browser.WaitUntil(() => browser.All("#bring-lines").Count > 0, "what goes where is shown");
            Assert.Contains("3 files, 3 of 12 armed tracks found", browser.Text);
            browser.ClickButton("Cut and keep as a take");
            browser.WaitUntil(() => browser.All(".take-track").Count == 3, "the take is there");
            Assert.Equal(["Kick", "Snare", "Low tom"], browser.All(".take-name").Select(n => n.Text));
            Assert.Empty(browser.Complaints);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task When_the_last_request_fails_it_is_said_and_nothing_is_sent_twice()
    {
        await using var app = await PageApp.Start();
        var folder = Directory.CreateTempSubdirectory("gate-split-again-").FullName;
        try
        {
            var file = Path.Combine(folder, "01 Kick.wav");
            Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "anoisesrc=d=3:r=48000:a=0.5", file);
            using var browser = new Browser(app.Port);
            browser.Open("/sessions/2/print");
            browser.Driver.ExecuteScript("window.reached = window.fetch; window.fetch = () => Promise.reject(new TypeError('gone'));");
            browser.Send("#recording", file);
            browser.ClickButton("Bring them in");
            browser.WaitUntil(() => browser.All("#trouble").Count > 0, "it is said");
            Assert.StartsWith("All files have come, but the program could not go on with them.", browser.TextOf("#trouble"), StringComparison.Ordinal);
            var arrived = Assert.Single(Directory.GetDirectories(Path.Combine(app.Folder, "audio/staging"), "arriving-*"));
            var written = File.GetLastWriteTimeUtc(Path.Combine(arrived, "data"));

            // Once more with the same file, on a page that was loaded anew and cannot send a byte of it.
            browser.Open("/sessions/2/print");
            browser.Driver.ExecuteScript("""
                const send = XMLHttpRequest.prototype.open;
                XMLHttpRequest.prototype.open = function (method, ...rest) {
                  if (method === "PATCH" || method === "POST") throw new Error("it is sent twice");
                  return send.call(this, method, ...rest);
                };
                """);
            Assert.Equal(written, File.GetLastWriteTimeUtc(Path.Combine(arrived, "data")));
            browser.Send("#recording", file);
            browser.ClickButton("Bring them in");
            browser.WaitUntil(() => browser.All("#bring-lines").Count > 0, "what goes where is shown");
            Assert.Contains("1 file, 1 of 12 armed tracks found", browser.Text);
            Assert.Empty(Directory.GetDirectories(Path.Combine(app.Folder, "audio/staging"), "arriving-*"));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
