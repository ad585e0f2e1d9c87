using System.CommandLine;
using System.Text.Json;
using GateSplit.Core.Checks;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Cli;

/// <summary>Checks the split of an exported session.</summary>
internal static class CheckCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var session = new Argument<FileInfo>("session") { Description = "An exported session." };
        var json = new Option<bool>("--json") { Description = "Print an array of JSON objects." };
        var command = new Command("check", "Tell what would go wrong when this session is printed.") { session, json };
        command.SetAction(parsed => Guarded.Run(() => Run(parsed.GetValue(session)!, parsed.GetValue(json))));
        return command;
    }

    private static int Run(FileInfo file, bool json)
    {
        var session = SessionArgument.Open(file);
        if (!session.Ok)
        {
            return Guarded.Refuse(session.Trouble);
        }

        var findings = AllChecks.Look(SessionArgument.View(session.Value));
        if (json)
        {
            Console.Out.WriteLine(JsonSerializer.Serialize(
                findings.Select(f => new Row(f.Id, f.Under, f.Severity, f.Check, f.Place.Key, f.Sentence, f.FixLabel)), SplitJson.Options));
        }
        else
        {
            foreach (var finding in findings)
            {
                Console.Out.WriteLine($"{(finding.Under is null ? "" : "  ")}{finding.Severity}: {finding.Sentence}");
            }
        }

        return findings.Any(f => f.ToMend) ? ExitCodes.Bad : ExitCodes.Good;
    }

    private sealed record Row(string Id, string? Under, Severity Severity, string Check, string Place, string Sentence, string? Fix);
}
