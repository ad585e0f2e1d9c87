namespace GateSplit.Core.Charts;

/// <summary>Something a person sets on the real source.</summary>
/// <param name="What">What to do.</param>
/// <param name="Otherwise">What happens if it is not done.</param>
public sealed record ChartSetting(string What, string Otherwise);
