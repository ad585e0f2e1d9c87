namespace GateSplit.Core;

/// <summary>A short text by which one part of a document refers to another. Each kind is a type of its own, so that two of them cannot be mixed up.</summary>
/// <typeparam name="TSelf">The kind.</typeparam>
public interface IId<TSelf>
    where TSelf : struct, IId<TSelf>
{
    /// <summary>The text, as files and addresses have it.</summary>
    string Value { get; }

    /// <summary>The id that a text names.</summary>
    static abstract TSelf Of(string value);
}
