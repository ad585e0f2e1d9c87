using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Web.Forms;

namespace GateSplit.Web.Tests;

/// <summary>Pages and scripts name no edit, no field and no place that the program does not know.</summary>
public sealed partial class FormRegistryTests
{
    /// <summary>What a form of a page has beside the fields of its edit.</summary>
    private static readonly string[] Always = [Field.Edit, Field.Revision, "back"];

    private static readonly string Web = Path.GetFullPath(Path.Combine(Here(), "../../../src/GateSplit.Web"));

    public static TheoryData<string> Pages => [.. Directory.GetFiles(Path.Combine(Web, "Pages"), "*.cshtml", SearchOption.AllDirectories).Select(p => Path.GetRelativePath(Web, p)).Order(StringComparer.Ordinal)];

    public static TheoryData<string> Scripts => [.. Directory.GetFiles(Path.Combine(Web, "wwwroot/js"), "*.js").Select(p => Path.GetRelativePath(Web, p)).Order(StringComparer.Ordinal)];

    [Theory]
    [MemberData(nameof(Pages))]
    public void A_form_has_the_fields_of_its_edit_and_no_other(string page)
    {
        var text = File.ReadAllText(Path.Combine(Web, page));
        Assert.DoesNotContain("name=\"edit\" value=", text, StringComparison.Ordinal); // the attribute "edit" of the form writes it
        foreach (Match form in Form().Matches(text))
        {
            var known = Known(form.Groups["name"].Value);
            var named = FieldName().Matches(form.Value).Select(m => m.Groups["name"].Value).ToList();
            Assert.All(named, n => Assert.True(Fits(known, n), $"{page}: the form of {known.Name} has no field {n}."));
        }
    }

    [Theory]
    [MemberData(nameof(Scripts))]
    public void A_script_sends_the_fields_of_an_edit_and_no_other(string script)
    {
        var text = File.ReadAllText(Path.Combine(Web, script));
        foreach (Match sent in Sent().Matches(text))
        {
            var known = EditForms.All[sent.Groups["name"].Value];
            foreach (var field in sent.Groups["rest"].Value.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(f => f.Split(':')[0].Trim()).Where(f => f.Length > 0))
            {
                Assert.True(Fits(known, field), $"{script}: the form of {known.Name} has no field {field}.");
            }
        }
    }

    [Fact]
    public void Every_form_has_a_name_of_its_own_and_stands_on_a_page_or_in_a_script()
    {
        var pages = string.Concat(Directory.GetFiles(Path.Combine(Web, "Pages"), "*.cshtml", SearchOption.AllDirectories).Select(File.ReadAllText));
        var scripts = string.Concat(Directory.GetFiles(Path.Combine(Web, "wwwroot/js"), "*.js").Select(File.ReadAllText));
        Assert.All(EditForms.All.Values, f => Assert.True(
            Names.Any(n => n.Value == f && pages.Contains($"edit=\"{n.Key}\"", StringComparison.Ordinal)) || scripts.Contains($"edit: \"{f.Name}\"", StringComparison.Ordinal),
            $"Nothing asks for {f.Name}."));
    }

    /// <summary>Whoever needs the key of a place asks for it: it is spelt in one file.</summary>
    [Fact]
    public void Keys_of_places_are_spelt_in_one_file()
    {
        var files = Directory.GetFiles(Path.Combine(Web, "../GateSplit.Core"), "*.cs", SearchOption.AllDirectories)
            .Concat(Directory.GetFiles(Path.Combine(Web, "Pages"), "*.cs*", SearchOption.AllDirectories))
            .Concat(Directory.GetFiles(Path.Combine(Web, "wwwroot/js"), "*.js"))
            .Where(p => !p.Contains("/obj/", StringComparison.Ordinal) && !p.Contains("/bin/", StringComparison.Ordinal));
        Assert.Equal(["Place.cs"], files.Where(p => PlaceKey().IsMatch(Code(p))).Select(Path.GetFileName));

        static string Code(string path) => string.Join('\n', File.ReadLines(path).Where(l => !l.TrimStart().StartsWith("//", StringComparison.Ordinal)));
    }

    [Fact]
    public void Places_are_read_as_they_are_written()
    {
        var element = new ElementRef(new UnitId("u1"), new Core.Charts.ElementId("kick"));
        Assert.Equal((element, (TrackId?)null), (Place.Of(element).Element!.Value, Place.Of(element).Track));
        Assert.Equal((new TrackId("t3"), (ElementRef?)null), (Place.Of(new TrackId("t3")).Track!.Value, Place.Of(new TrackId("t3")).Element));
        Assert.Equal("bank:b-u1/3", Place.Of(new InputRef(new BankId("b-u1"), 3)).Key);
        Assert.Equal("unit:u1", Place.Of(new UnitId("u1")).Key);
        Assert.Equal("port:u1/3", Place.OfPort(new UnitId("u1"), 3).Key);
    }

    [Fact]
    public void References_are_read_as_they_are_written()
    {
        var element = new ElementRef(new UnitId("u1"), new Core.Charts.ElementId("hi/hat: open"));
        Assert.Equal(element, ElementRef.Read($"{element}"));
        var input = new InputRef(new BankId("b-u1"), 12);
        Assert.Equal(input, InputRef.Read($"{input}"));
        Assert.Equal((input, (int?)null), Cable.ReadPlug(new Cable(new UnitId("u1"), 1, input).Plug)!.Value);
        Assert.Equal((input, (int?)3), Cable.ReadPlug(new Cable(new UnitId("u1"), 1, input, 3).Plug)!.Value);
        foreach (var wrong in new[] { "", "u1", "u1:NaN", "u1:", ":3", "u1:3:4", "u1:3.5" })
        {
            Assert.Null(InputRef.Read(wrong));
        }

        Assert.Null(ElementRef.Read("u1"));
        Assert.Null(ElementRef.Read("/kick"));
        Assert.Null(Cable.ReadPlug("in1:3 x"));
    }

    private static readonly Dictionary<string, EditForm> Names = new[] { typeof(SourceForms), typeof(RecorderForms), typeof(TrackForms), typeof(PerformanceForms), typeof(RigForms) }
        .SelectMany(t => t.GetFields().Where(f => f.FieldType == typeof(EditForm)).Select(f => ($"{t.Name}.{f.Name}", (EditForm)f.GetValue(null)!)))
        .ToDictionary();

    private static EditForm Known(string name) => Names[name];

    private static bool Fits(EditForm form, string field) =>
        Always.Contains(field) || form.Fields.Contains(field) || form.Fields.Any(f => f.EndsWith(':') && field.StartsWith(f, StringComparison.Ordinal));

    private static string Here([CallerFilePath] string here = "") => here;

    [GeneratedRegex("""<form edit="(?<name>\w+\.\w+)".*?</form>""", RegexOptions.Singleline | RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Form();

    [GeneratedRegex(""" name="(?<name>[^"@]+)""", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex FieldName();

    [GeneratedRegex("""edit: "(?<name>[\w-]+)"(?<rest>[^}]*)\}""", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Sent();

    [GeneratedRegex("""["`](element|port|track|unit|bank):""", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex PlaceKey();
}
