namespace GateSplit.Core.Charts;

/// <summary>Something a person sets on the real source.</summary>
/// <param name="What">What to do.</param>
/// <param name="Otherwise">What happens if it is not done.</param>
/// <param name="Effect">The same as a stand-in shows it.</param>
public sealed record ChartSetting(string What, string Otherwise, SettingEffect Effect = SettingEffect.None)
{
    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.Unless(
        Names.FitSentence(What) && What.Length > 0 && Names.FitSentence(Otherwise) && Enum.IsDefined(Effect),
        place,
        "what to set, what happens otherwise, and what a stand-in shows of it are needed.");
}
