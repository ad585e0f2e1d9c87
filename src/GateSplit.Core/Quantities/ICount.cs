namespace GateSplit.Core.Quantities;

/// <summary>A whole number of things of one kind, so that two kinds cannot be mixed up. Plain numbers in JSON and in the database.</summary>
/// <typeparam name="TSelf">The kind.</typeparam>
public interface ICount<TSelf>
    where TSelf : struct, ICount<TSelf>
{
    /// <summary>How many; below 0 for a step back.</summary>
    long Count { get; }

    /// <summary>So many of them.</summary>
    static abstract TSelf Of(long count);
}
