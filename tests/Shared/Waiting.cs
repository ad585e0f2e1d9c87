namespace GateSplit.Tests.Shared;

/// <summary>Waits for what other processes do.</summary>
public static class Waiting
{
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(5);

    /// <summary>Waits until something holds.</summary>
    /// <param name="condition">What.</param>
    /// <param name="what">The same in words.</param>
    /// <param name="said">What the other processes said meanwhile, for whoever reads why it never did; may be null.</param>
    /// <exception cref="TimeoutException">It never did.</exception>
    public static async Task Until(Func<Task<bool>> condition, string what, Func<string>? said = null)
    {
        var end = DateTime.UtcNow + Patience;
        while (!await condition())
        {
            if (DateTime.UtcNow > end)
            {
                throw new TimeoutException($"Waited in vain until {what}. {said?.Invoke()}");
            }

            await Task.Delay(100);
        }
    }
}
