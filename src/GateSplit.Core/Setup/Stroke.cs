namespace GateSplit.Core.Setup;

/// <summary>One action on neighbouring rows: all of them get what it gives, counted upward where that counts.</summary>
/// <typeparam name="T">What is given.</typeparam>
/// <param name="First">The first row, from 0.</param>
/// <param name="Last">The last row.</param>
/// <param name="Value">What the first row gets.</param>
/// <param name="Counts">True if what the others get counts upward from there; false if they get the same.</param>
public sealed record Stroke<T>(int First, int Last, T Value, bool Counts)
{
    /// <summary>How many rows it reaches.</summary>
    public int Rows => Last - First + 1;
}
