using Microsoft.AspNetCore.Mvc.ViewFeatures;

namespace GateSplit.Web.Endpoints;

/// <summary>
/// What is to be told on the page that somebody is sent to. It travels in a sealed cookie and is told once: an address shows no sentence
/// that is not ours.
/// </summary>
public static class NextPage
{
    private const string Notice = "notice";
    private const string Said = "said";

    /// <summary>Leaves a sentence for the top of the next page.</summary>
    public static void Notify(this ITempDataDictionary next, string sentence) => next[Notice] = sentence;

    /// <summary>Leaves what was just done for the live region of the next page.</summary>
    public static void Say(this ITempDataDictionary next, string said) => next[Said] = said;

    /// <summary>The sentence that was left for the top of this page; null for none.</summary>
    public static string? TakeNotice(this ITempDataDictionary here) => here[Notice] as string;

    /// <summary>What was left for the live region of this page; null for nothing.</summary>
    public static string? TakeSaid(this ITempDataDictionary here) => here[Said] as string;
}
