using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>All voices of some sources.</summary>
internal sealed class Voices
{
    private readonly VoiceStandIn[] _struck;
    private readonly VoiceStandIn[] _held;
    private readonly IHeldNotes? _heldNotes;

    /// <summary>Takes the voices of sources of which anything is heard.</summary>
    /// <param name="sources">The sources.</param>
    /// <param name="sampleRate">Frames a second.</param>
    public Voices(IEnumerable<UnitStandIn> sources, SampleRate sampleRate)
    {
        var heard = sources.SelectMany(s => s.HeardVoices).ToList();
        _struck = [.. heard.Where(v => v.Held is null)];
        _held = [.. heard.Where(v => v.Held is not null)];
        _heldNotes = _held.Length > 0 ? IHeldNotes.Of([.. _held.Select(v => v.Held!)], sampleRate) : null;
    }

    /// <summary>Renders the next block of all of them.</summary>
    public void Render(Block block)
    {
        RenderHeld(block);
        foreach (var voice in _struck)
        {
            voice.Render(block);
        }
    }

    /// <summary>Renders the next block of those that are held; the others may be rendered by themselves meanwhile.</summary>
    public void RenderHeld(Block block)
    {
        _heldNotes?.Render(block.Start, [.. _held.Select(v => v.Begin(block))]);
        foreach (var voice in _held)
        {
            voice.End(block);
        }
    }

    /// <summary>Goes to a frame before the first block is rendered: notes that still sound there sound as if they had been heard.</summary>
    public void SkipTo(Frames frame)
    {
        foreach (var voice in _struck)
        {
            voice.SkipTo(frame);
        }

        _heldNotes?.SkipTo(frame);
    }
}
