using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace GateSplit.Web.Tests;

/// <summary>The folders of the web project stand on each other without a circle.</summary>
public sealed partial class WebArchitectureTests
{
    /// <summary>What each folder may use.</summary>
    private static readonly Dictionary<string, string[]> Allowed = new()
    {
        ["Forms"] = [],
        ["Sessions"] = [],
        ["Live"] = ["Sessions"],
        ["Endpoints"] = ["Live", "Sessions"],
        ["Pages"] = ["Endpoints", "Forms", "Sessions"],
        ["Hosting"] = ["Pages", "Endpoints", "Live", "Sessions", "Forms"],
    };

    public static TheoryData<string> Folders => [.. Allowed.Keys];

    [Fact]
    public void Every_folder_with_code_is_in_the_table() => Assert.Equal(
        Allowed.Keys.Order(),
        Directory.GetDirectories(Root()).Where(d => Directory.EnumerateFiles(d, "*.cs", SearchOption.AllDirectories).Any()).Select(Path.GetFileName).Where(n => n is not ("bin" or "obj" or "wwwroot" or "node_modules")).Order());

    [Theory]
    [MemberData(nameof(Folders))]
    public void A_folder_uses_only_what_lies_beneath_it(string folder)
    {
        var used = Directory.EnumerateFiles(Path.Combine(Root(), folder), "*.cs*", SearchOption.AllDirectories)
            .SelectMany(p => Use().Matches(File.ReadAllText(p)).Select(m => m.Groups["folder"].Value))
            .Where(Allowed.ContainsKey)
            .Distinct()
            .Except([folder]);
        Assert.Empty(used.Except(Allowed[folder]));
    }

    private static string Root([CallerFilePath] string here = "") => Path.GetFullPath(Path.Combine(here, "../../../src/GateSplit.Web"));

    [GeneratedRegex(@"GateSplit\.Web\.(?<folder>[A-Z]\w+)", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Use();
}
