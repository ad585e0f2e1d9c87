namespace GateSplit.Core.Charts;

/// <summary>Something a person sets on the real source.</summary>
/// <param name="What">What to do.</param>
/// <param name="Otherwise">What happens if it is not done.</param>
/// <param name="Effect">The same as a stand-in shows it.</param>
public sealed record ChartSetting(string What, string Otherwise, SettingEffect Effect = SettingEffect.None);
