using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Web.Forms;

/// <summary>
/// The fields of a posted form, read as what they are meant to be. A field that is not that is remembered with a sentence, and some
/// value stands in for it: whoever reads looks at <see cref="Trouble"/> once, at the end.
/// </summary>
/// <param name="form">The form.</param>
/// <param name="split">The split it is about.</param>
/// <param name="view">What sounds where in it; null where no edit of the page needs it.</param>
public sealed class FormFields(IFormCollection form, Split split, SplitView? view)
{
    /// <summary>The split the form is about.</summary>
    public Split Split => split;

    /// <summary>What sounds where in it; null where no edit of the page needs it.</summary>
    public SplitView? View => view;

    /// <summary>Everything that was sent.</summary>
    public IFormCollection All => form;

    /// <summary>What the first field says that makes no sense; null if all do.</summary>
    public string? Trouble { get; private set; }

    /// <summary>True if the form has the field at all.</summary>
    public bool Has(string field) => form.ContainsKey(field);

    /// <summary>A text, empty if it was not sent.</summary>
    public string Text(string field) => form[field].ToString();

    /// <summary>The element that the fields for source and element name.</summary>
    public ElementRef Element => new(Unit, new ElementId(Text(Field.Element)));

    /// <summary>The source that is named.</summary>
    public UnitId Unit => new(Text(Field.Unit));

    /// <summary>The track that is named.</summary>
    public TrackId Track => new(Text(Field.Track));

    /// <summary>The row of inputs that is named.</summary>
    public BankId Bank => new(Text(Field.Bank));

    /// <summary>Yes or no, and nothing else.</summary>
    public bool Flag(string field = Field.On) => Text(field) switch
    {
        "true" => true,
        "false" => false,
        _ => Fault<bool>($"The field {field} is either true or false."),
    };

    /// <summary>Yes or no, or what it was where the form does not say.</summary>
    public bool Flag(string field, bool otherwise) => Has(field) ? Flag(field) : otherwise;

    /// <summary>A number with a point or a comma.</summary>
    public double Number(string field, string called) => NumberText.Read(Text(field)) ?? Fault<double>(NeedsNumber(called));

    /// <summary>A number, or none where the field is empty.</summary>
    public double? OptionalNumber(string field, string called) => Text(field).Length == 0 ? null : Number(field, called);

    /// <summary>A level.</summary>
    public Decibels Level(string field, string called) => Decibels.Read(Text(field)) ?? Fault<Decibels>(NeedsNumber(called));

    /// <summary>A level, or none where the field is empty.</summary>
    public Decibels? OptionalLevel(string field, string called) => Text(field).Length == 0 ? null : Level(field, called);

    /// <summary>A pan, -100 to 100.</summary>
    public Pan Pan(string field, string called = "pan") => Core.Quantities.Pan.Read(Text(field)) ?? Fault<Pan>(NeedsNumber(called));

    /// <summary>A pan, or none where the field is empty.</summary>
    public Pan? OptionalPan(string field, string called = "pan") => Text(field).Length == 0 ? null : Pan(field, called);

    /// <summary>A whole number.</summary>
    public int Whole(string field, string called) => int.TryParse(Text(field), out var number) ? number : Fault<int>(NeedsNumber(called));

    /// <summary>A whole number, or none where the field is empty.</summary>
    public int? OptionalWhole(string field, string called) => Text(field).Length == 0 ? null : Whole(field, called);

    /// <summary>A whole number, or what it was where the form does not say.</summary>
    public int Whole(string field, string called, int otherwise) => Has(field) ? Whole(field, called) : otherwise;

    /// <summary>One of the names of an enumeration; never a number for one.</summary>
    public T Choice<T>(string field, string called)
        where T : struct, Enum =>
        Enum.GetNames<T>().Contains(Text(field)) ? Enum.Parse<T>(Text(field)) : Fault<T>($"Choose one of the possibilities for the {called}.");

    /// <summary>One of the names of an enumeration, or what it was where the form does not say.</summary>
    public T Choice<T>(string field, string called, T otherwise)
        where T : struct, Enum => Has(field) ? Choice<T>(field, called) : otherwise;

    /// <summary>Mono or stereo.</summary>
    public Width Width(string field = "width") => Text(field) switch
    {
        "mono" => Core.Charts.Width.Mono,
        "stereo" => Core.Charts.Width.Stereo,
        _ => Fault<Width>("It is either mono or stereo."),
    };

    /// <summary>An input.</summary>
    public InputRef Input(string field) => InputRef.Read(Text(field)) ?? Fault("Choose an input.", new InputRef(default, 0));

    /// <summary>An input, or none where the field is empty.</summary>
    public InputRef? OptionalInput(string field) => Text(field).Length == 0 ? null : Input(field);

    /// <summary>Several tracks.</summary>
    public IReadOnlyList<TrackId> Several => [.. form[Field.Tracks].OfType<string>().Select(TrackId.Of)];

    /// <summary>Several elements.</summary>
    public IReadOnlyList<ElementRef> SeveralElements => [.. form[Field.Elements].OfType<string>().Select(ElementRef.Read).OfType<ElementRef>()];

    /// <summary>Remembers that a field makes no sense.</summary>
    /// <returns>Something that stands in for its value.</returns>
    public T Fault<T>(string sentence, T standIn = default!)
    {
        Trouble ??= sentence;
        return standIn;
    }

    private static string NeedsNumber(string called) => $"The {called} needs a number.";
}
