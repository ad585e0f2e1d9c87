using System.Collections.Immutable;
using System.Text.Json;
using GateSplit.Core.Proofing;

namespace GateSplit.Core.Handoff;

/// <summary>A whole session as it travels: what its bundle.json says. Everything else in the bundle is a file that it names.</summary>
/// <param name="Name">The session's name.</param>
/// <param name="Revision">The revision that its split is at.</param>
/// <param name="Revisions">Its splits: the present one, those that takes were made with, those that have a name.</param>
/// <param name="Takes">Its takes.</param>
/// <param name="Choices">Of lines whose take somebody has chosen, that take.</param>
/// <param name="RollCalls">What roll calls have heard in its room.</param>
/// <param name="Charts">Files of the charts of one's own that its sources have on the shelf.</param>
public sealed record SessionBundle(
    string Name,
    int Revision,
    ImmutableArray<BundledRevision> Revisions,
    ImmutableArray<BundledTake> Takes,
    ImmutableArray<BundledChoice> Choices,
    ImmutableArray<BundledRollCall> RollCalls,
    ImmutableArray<string> Charts)
{
    /// <summary>The name in the field "format".</summary>
    public const string FormatName = "gate-split-bundle";

    /// <summary>The version that is written.</summary>
    public const int Version = 1;

    /// <summary>The file that it is in.</summary>
    public const string FileName = "bundle.json";

    /// <summary>When the last of what is in it was made, so that the same session makes the same bytes.</summary>
    internal DateTime Made => Revisions.Select(r => r.Made).Concat(Takes.Select(t => t.Made)).Concat(RollCalls.Select(c => c.Made)).Max();

    /// <summary>Writes it.</summary>
    public byte[] ToJson() => JsonSerializer.SerializeToUtf8Bytes(new Document(FormatName, Version, this), ProofJson.Options);

    /// <summary>Reads it. What it says has still to pass <see cref="BundleRules"/>.</summary>
    /// <returns>Or a sentence with the place that does not fit.</returns>
    public static Result<SessionBundle> Read(ReadOnlySpan<byte> json)
    {
        try
        {
            return JsonSerializer.Deserialize<Head>(json, ProofJson.Options) switch
            {
                not { Format: FormatName } => new Refusal("This is no session with its takes."),
                { Version: not Version } head => new Refusal($"This session has version {head.Version} of the format; {Version} is the newest that is read here."),
                _ => JsonSerializer.Deserialize<Document>(json, ProofJson.Options)!.Session,
            };
        }
        catch (Exception e) when (JsonTrouble.IsTrouble(e))
        {
            return new Refusal(JsonTrouble.Of(e));
        }
    }

    private sealed record Head(string? Format = null, int Version = 0);

    private sealed record Document(string Format, int Version, SessionBundle Session);
}
