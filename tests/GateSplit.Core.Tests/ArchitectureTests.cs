using ArchUnitNET.Domain;
using ArchUnitNET.Loader;
using ArchUnitNET.xUnitV3;
using static ArchUnitNET.Fluent.ArchRuleDefinition;

namespace GateSplit.Core.Tests;

/// <summary>Arrows point to Core, and inside Core from the folders on top to those on the ground.</summary>
public sealed class ArchitectureTests
{
    private const string Root = "GateSplit.Core";
    private static readonly Architecture Core = new ArchLoader().LoadAssemblies(typeof(Words).Assembly).Build();

    /// <summary>What each folder may use: all that lies beneath it. Demo and Handoff stand on top.</summary>
    private static readonly Dictionary<string, string[]> Allowed = new()
    {
        ["Quantities"] = [],
        ["Sound"] = ["Quantities"],
        ["Notes"] = ["Quantities"],
        ["Charts"] = ["Quantities"],
        ["Splits"] = ["Charts", "Sound", "Quantities"],
        ["Edits"] = ["Splits", "Charts", "Sound", "Quantities"],
        ["Signal"] = ["Splits", "Charts", "Notes", "Quantities"],
        ["Views"] = ["Signal", "Splits", "Charts", "Notes", "Quantities"],
        ["Checks"] = ["Views", "Edits", "Signal", "Splits", "Charts", "Sound", "Notes", "Quantities"],
        ["Planning"] = ["Views", "Edits", "Signal", "Splits", "Charts", "Sound", "Notes", "Quantities"],
        ["Drawing"] = ["Views", "Signal", "Splits", "Charts", "Sound", "Quantities"],
        ["StandIns"] = ["Planning", "Views", "Edits", "Signal", "Splits", "Charts", "Sound", "Notes", "Quantities"],
        ["Proofing"] = ["Views", "Signal", "Edits", "Planning", "Splits", "Charts", "Sound", "Notes", "Quantities"],
        ["Handoff"] = ["Proofing", "Drawing", "Planning", "Views", "Signal", "Splits", "Charts", "Sound", "Notes", "Quantities"],
        ["Setup"] = ["Views", "Signal", "Splits", "Charts", "Sound", "Notes", "Quantities"],
        ["Templates"] = ["Planning", "Views", "Edits", "Signal", "Splits", "Charts", "Sound", "Notes", "Quantities"],
        ["Demo"] = ["Planning", "Views", "Edits", "Signal", "Splits", "Charts", "Sound", "Notes", "Quantities"],
    };

    public static TheoryData<string> Folders => [.. Allowed.Keys];

    [Fact]
    public void Every_folder_of_core_is_in_the_table()
    {
        var folders = typeof(Words).Assembly.GetTypes()
            .Select(t => t.Namespace ?? "")
            .Where(n => n.StartsWith(Root + ".", StringComparison.Ordinal))
            .Select(n => n[(Root.Length + 1)..])
            .Distinct().Order();
        Assert.Equal(Allowed.Keys.Order(), folders);
    }

    [Theory]
    [MemberData(nameof(Folders))]
    public void A_folder_uses_only_what_lies_beneath_it(string folder)
    {
        foreach (var other in Allowed.Keys.Except([folder, .. Allowed[folder]]))
        {
            Types().That().ResideInNamespaceMatching($"^{Root}\\.{folder}(\\.|$)")
                .Should().NotDependOnAny(Types().That().ResideInNamespaceMatching($"^{Root}\\.{other}(\\.|$)"))
                .Check(Core);
        }
    }

    [Fact]
    public void Core_knows_no_web_no_database_and_no_console()
    {
        var used = typeof(Words).Assembly.GetReferencedAssemblies().Select(a => a.Name!).ToList();
        Assert.DoesNotContain(used, n =>
            n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal)
            || n.StartsWith("GateSplit", StringComparison.Ordinal)
            || n is "Npgsql" or "Dapper" or "System.Console" or "System.Data.Common" or "System.Net.Http");
    }

    [Fact]
    public void Data_knows_no_web()
    {
        var used = System.Reflection.Assembly.Load("GateSplit.Data").GetReferencedAssemblies().Select(a => a.Name!);
        Assert.DoesNotContain(used, n => n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal) || n is "GateSplit.Web" or "GateSplit.Jobs");
    }
}
