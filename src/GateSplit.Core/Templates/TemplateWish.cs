using System.Collections.Immutable;

namespace GateSplit.Core.Templates;

/// <summary>How a template is added to a session.</summary>
/// <param name="Bring">Sources and rows of inputs that are not there and are to be made, by their ids in the template.</param>
/// <param name="LeaveSettings">True to leave sources that are there as they are set.</param>
/// <param name="LeaveOutSilent">True to leave out the tracks of what does not sound in the session's song.</param>
/// <param name="CloseUp">True to count the outputs and inputs of what is left anew, without gaps.</param>
/// <param name="Taken">What becomes of tracks whose inputs are taken.</param>
public sealed record TemplateWish(ImmutableHashSet<string> Bring, bool LeaveSettings = false, bool LeaveOutSilent = false, bool CloseUp = false, TakenInputs Taken = TakenInputs.StayWithout)
{
    /// <summary>What is not there stays away, and all else is taken as it was kept.</summary>
    public static TemplateWish Plain { get; } = new(Bring: []);
}
