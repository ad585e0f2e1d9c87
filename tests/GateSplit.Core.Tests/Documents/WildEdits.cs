using System.Collections.Immutable;
using System.Reflection;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Documents;

/// <summary>Edits of every kind there is, with parts that make sense and parts that do not.</summary>
internal sealed class WildEdits(Random random)
{
    private static readonly ImmutableArray<Type> Kinds =
    [
        .. typeof(Edit).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(Edit)) && !t.IsAbstract && t != typeof(Several)).OrderBy(t => t.Name, StringComparer.Ordinal),
    ];

    private static readonly int[] Whole = [int.MinValue, -1, 0, 1, 1, 2, 2, 3, 4, 5, 8, 12, 17, 64, 65, 256, 257, 48000, 44100, int.MaxValue];
    private static readonly double[] Real = [double.NaN, double.NegativeInfinity, -1e308, -200, -120, -60, -6, -1, -0.5, 0, 0, 0.5, 1, 1, 2, 4, 12, 13, 100, 20000, 1e308, double.PositiveInfinity];
    private static readonly string[] Texts = ["", " ", "Kick", "Low end", "Tränen 太鼓", "a\0b", "two\nlines", "\ud800", new('x', 80), new('x', 81), new('x', 100_000)];

    /// <summary>Any edit of a split.</summary>
    public Edit Next(Split split) => (Edit)Make(Kinds[random.Next(Kinds.Length)], split, 0)!;

    private T Of<T>(IReadOnlyList<T> all) => all[random.Next(all.Count)];

    private object? Make(Type type, Split split, int depth)
    {
        if (Nullable.GetUnderlyingType(type) is { } inner)
        {
            return random.Next(3) == 0 ? null : Make(inner, split, depth);
        }

        return type switch
        {
            _ when type == typeof(int) => Of(Whole),
            _ when type == typeof(long) => (long)Of(Whole),
            _ when type == typeof(double) => Of(Real),
            _ when type == typeof(bool) => random.Next(2) == 0,
            _ when type == typeof(string) => random.Next(3) == 0 ? Of(Texts) : Of(Texts[2..4]),
            _ when type == typeof(Decibels) => new Decibels(Of(Real)),
            _ when type == typeof(Pan) => new Pan(Of(Real)),
            _ when type.IsEnum => random.Next(8) == 0 ? Enum.ToObject(type, 99) : Enum.GetValues(type).GetValue(random.Next(Enum.GetValues(type).Length)),
            _ when Known(type, split) is { } id => id,
            _ when type.IsGenericType && type.GetGenericTypeDefinition() == typeof(ImmutableArray<>) => List(type.GetGenericArguments()[0], split, depth),
            _ => Whatever(type, split, depth),
        };
    }

    /// <summary>Mostly what is there, sometimes what is not.</summary>
    private object? Known(Type type, Split split)
    {
        var there = random.Next(10) > 0;
        var unit = split.Units.IsEmpty ? null : Of(split.Units);
        return type switch
        {
            _ when type == typeof(UnitId) => there && unit is not null ? unit.Id : new UnitId("u99"),
            _ when type == typeof(TrackId) => there && !split.Tracks.IsEmpty ? Of(split.Tracks).Id : new TrackId(Of(["t9999", "t0", "x", ""])),
            _ when type == typeof(BankId) => there && !split.Banks.IsEmpty ? Of(split.Banks).Id : new BankId("attic"),
            _ when type == typeof(TrackGroupId) => there && !split.TrackGroups.IsEmpty ? Of(split.TrackGroups).Id : new TrackGroupId("g77"),
            _ when type == typeof(ElementId) => there && unit is not null ? Of(unit.Elements).ElementId : new ElementId("gong"),
            _ when type == typeof(VoiceId) => there && unit is { Voices.IsEmpty: false } ? Of(unit.Voices).VoiceId : new VoiceId("gong"),
            _ when type == typeof(ModeId) => there && unit is not null ? Of(unit.Chart.Modes).Id : new ModeId("gone"),
            _ when type == typeof(ElementRef) => unit is not null ? new ElementRef(unit.Id, (ElementId)Known(typeof(ElementId), split)!) : new ElementRef(new UnitId("u99"), new ElementId("x")),
            _ when type == typeof(InputRef) => new InputRef((BankId)Known(typeof(BankId), split)!, random.Next(4) == 0 ? Of(Whole) : random.Next(1, 12)),
            _ when type == typeof(Chart) => Of(Shelf.Charts),
            _ when type == typeof(Bank) && there && !split.Banks.IsEmpty => Changed(Of(split.Banks), split),
            _ when type == typeof(TrackGroup) && there && !split.TrackGroups.IsEmpty => Changed(Of(split.TrackGroups), split),
            _ when type == typeof(PassSettings) => Changed(split.Pass, split),
            _ when type == typeof(SimulatedInterface) => Changed(split.Interface, split),
            _ when type == typeof(SimulatedUnit) && unit is not null => Changed(unit.Simulated, split),
            _ when type == typeof(PerformedStep) && there && !split.Steps.IsEmpty => Of(split.Steps),
            _ => null,
        };
    }

    /// <summary>The same with one or two parts otherwise.</summary>
    private object Changed(object before, Split split)
    {
        var clone = before.GetType().GetMethod("<Clone>$")!.Invoke(before, null)!;
        var parts = before.GetType().GetProperties().Where(p => p.CanWrite).ToList();
        for (var i = random.Next(1, 3); i > 0; i--)
        {
            var part = Of(parts);
            part.SetValue(clone, Make(part.PropertyType, split, 1));
        }

        return clone;
    }

    private object List(Type of, Split split, int depth)
    {
        var made = Array.CreateInstance(of, depth > 2 ? 0 : random.Next(4));
        for (var i = 0; i < made.Length; i++)
        {
            made.SetValue(Make(of, split, depth + 1), i);
        }

        return typeof(ImmutableArray).GetMethods().Single(m => m.Name == nameof(ImmutableArray.Create) && m.IsGenericMethod && m.GetParameters() is [{ ParameterType.IsArray: true }])
            .MakeGenericMethod(of).Invoke(null, [made])!;
    }

    private object Whatever(Type type, Split split, int depth)
    {
        var made = type.GetConstructors().OrderByDescending(c => c.GetParameters().Length).First() is var constructor
            ? constructor.Invoke([.. constructor.GetParameters().Select(p => Make(p.ParameterType, split, depth + 1))])
            : throw new InvalidOperationException();
        foreach (var part in type.GetProperties(BindingFlags.Public | BindingFlags.Instance).Where(p => p.CanWrite && random.Next(4) == 0 && constructor.GetParameters().All(c => c.Name != p.Name)))
        {
            part.SetValue(made, Make(part.PropertyType, split, depth + 1));
        }

        return made;
    }
}
