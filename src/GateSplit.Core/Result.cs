using System.Diagnostics.CodeAnalysis;

namespace GateSplit.Core;

/// <summary>What came of something that may be refused: a value, or a sentence a user can act on.</summary>
/// <typeparam name="T">The value of a success.</typeparam>
public readonly record struct Result<T>
    where T : class
{
    private Result(T? value, string? trouble)
    {
        Value = value;
        Trouble = trouble;
    }

    /// <summary>The value; null when refused.</summary>
    public T? Value { get; }

    /// <summary>Why it was refused, as one or more full sentences; null on success.</summary>
    public string? Trouble { get; }

    /// <summary>Tells which of the two it is.</summary>
    [MemberNotNullWhen(true, nameof(Value))]
    [MemberNotNullWhen(false, nameof(Trouble))]
    public bool Ok => Value is not null;

    /// <summary>A success.</summary>
    public static implicit operator Result<T>(T value) => new(value, null);

    /// <summary>A refusal.</summary>
    public static implicit operator Result<T>(Refusal refusal) => new(null, refusal.Sentence);
}
