namespace GateSplit.Core.Proofing;

/// <summary>Mends in words.</summary>
public static class MendNames
{
    /// <summary>The names of some mends, each as it is done.</summary>
    /// <param name="before">The take before the first of them.</param>
    /// <param name="mends">The mends, in order.</param>
    public static IEnumerable<string> Of(MendedTake before, IEnumerable<Mend> mends)
    {
        foreach (var mend in mends)
        {
            yield return mend.Name(before);
            before = mend.Apply(before).Value ?? before;
        }
    }
}
