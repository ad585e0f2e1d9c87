using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>A ride as a function of the frame; a frequency moves evenly in octaves. Values stand on a grid of frames and are joined by straight lines, so nothing depends on blocks.</summary>
internal sealed class RideCurve
{
    /// <summary>Frames between two values that are worked out.</summary>
    public const int Grid = 64;

    /// <summary>A control that is moved by hand gets there within this time, 20 ms at 48 kHz.</summary>
    private const int HandFrames = 15 * Grid;

    private (Frames Frame, double Value)[] _points;
    private readonly bool _steps;
    private readonly bool _octaves;

    /// <summary>Makes the curve of a ride.</summary>
    public RideCurve(Ride ride, Song song, SampleRate sampleRate)
    {
        _steps = ride.Control == RideControl.Mute;
        _octaves = ride.Control == RideControl.Filter;
        _points = [.. ride.Points.Select(p => (FrameOf(p.Bar, song, sampleRate), _octaves ? Maths.Log2(p.Value) : p.Value))];
    }

    /// <summary>The value at a frame.</summary>
    public double At(Frames frame) => _octaves ? Maths.Exp2(Between(frame)) : Between(frame);

    /// <summary>Moves the control by hand; what was to come is gone.</summary>
    /// <param name="frame">The next frame that is worked out.</param>
    /// <param name="value">Where it goes.</param>
    public void Move(Frames frame, double value)
    {
        var (_, within) = frame.In(Grid);
        var cell = within == 0 ? frame : frame - within + Grid;
        var to = _octaves ? Maths.Log2(value) : value;
        _points = [(cell - 1, Between(cell)), (cell, Between(cell)), (cell + HandFrames, to)];
    }

    private double Between(Frames frame)
    {
        var after = Array.FindIndex(_points, p => p.Frame > frame);
        if (after <= 0)
        {
            return after == 0 ? _points[0].Value : _points[^1].Value;
        }

        var (from, to) = (_points[after - 1], _points[after]);
        return _steps || to.Frame == from.Frame
            ? from.Value
            : from.Value + (to.Value - from.Value) * (frame - from.Frame).Count / (to.Frame - from.Frame).Count;
    }

    /// <summary>Fills in a value for each frame: what a function makes of the curve on the grid, straight in between.</summary>
    /// <param name="start">The first frame.</param>
    /// <param name="into">Receives the values.</param>
    /// <param name="of">From the control's value to what is wanted.</param>
    public void Fill(Frames start, Span<float> into, Func<double, double> of)
    {
        for (var i = 0; i < into.Length;)
        {
            var (_, within) = (start + i).In(Grid);
            var cell = start + i - within;
            var (low, high) = (of(At(cell)), of(At(cell + Grid)));
            for (; within < Grid && i < into.Length; within++, i++)
            {
                into[i] = (float)(low + (high - low) * within / Grid);
            }
        }
    }

    private static Frames FrameOf(double bar, Song song, SampleRate sampleRate)
    {
        var whole = (long)Math.Floor(bar);
        var start = song.Tempos.ToFrames(song.Metres.BarStart(whole - 1), sampleRate);
        var end = song.Tempos.ToFrames(song.Metres.BarStart(whole), sampleRate);
        return start + new Frames((long)Math.Round((end - start).Count * (bar - whole)));
    }
}
