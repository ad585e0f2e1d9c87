using System.Collections;
using System.Runtime.CompilerServices;

namespace GateSplit.Core.Notes;

/// <summary>The bytes of a MIDI event behind its status. One or two, as nearly all events have, lie in the event itself.</summary>
[CollectionBuilder(typeof(MidiData), nameof(Of))]
public readonly struct MidiData : IReadOnlyList<byte>, IEquatable<MidiData>
{
    private const int Inside = 2;
    private readonly byte _first;
    private readonly byte _second;
    private readonly byte _inside;
    private readonly byte[]? _more;

    private MidiData(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > Inside)
        {
            _more = bytes.ToArray();
            return;
        }

        _inside = (byte)bytes.Length;
        _first = bytes.Length > 0 ? bytes[0] : (byte)0;
        _second = bytes.Length > 1 ? bytes[1] : (byte)0;
    }

    /// <summary>How many bytes there are.</summary>
    public int Length => _more?.Length ?? _inside;

    /// <inheritdoc/>
    public int Count => Length;

    /// <inheritdoc/>
    public byte this[int index] => _more is not null
        ? _more[index]
        : (uint)index < _inside ? index == 0 ? _first : _second : throw new ArgumentOutOfRangeException(nameof(index));

    /// <summary>True if they are the same bytes.</summary>
    public static bool operator ==(MidiData left, MidiData right) => left.Equals(right);

    /// <summary>True if they are not.</summary>
    public static bool operator !=(MidiData left, MidiData right) => !left.Equals(right);

    /// <summary>Copies bytes.</summary>
    public static MidiData Of(ReadOnlySpan<byte> bytes) => new(bytes);

    /// <inheritdoc/>
    public IEnumerator<byte> GetEnumerator()
    {
        for (var i = 0; i < Length; i++)
        {
            yield return this[i];
        }
    }

    /// <inheritdoc/>
    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    /// <inheritdoc/>
    public bool Equals(MidiData other) => _more is null
        ? other._more is null && (_inside, _first, _second) == (other._inside, other._first, other._second)
        : other._more is not null && _more.AsSpan().SequenceEqual(other._more);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => obj is MidiData other && Equals(other);

    /// <inheritdoc/>
    public override int GetHashCode()
    {
        var hash = default(HashCode);
        foreach (var b in this)
        {
            hash.Add(b);
        }

        return hash.ToHashCode();
    }

    /// <summary>Writes them.</summary>
    public void WriteTo(Stream to)
    {
        foreach (var b in this)
        {
            to.WriteByte(b);
        }
    }
}
