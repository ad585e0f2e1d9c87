using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

public sealed class LanesTests
{
    [Fact]
    public void Functions_of_eight_lanes_are_those_of_the_library() => Functions<Lanes8>();

    [Fact]
    public void Functions_of_sixteen_lanes_are_those_of_the_library() => Functions<Lanes16>();

    [Fact]
    public void Transposing_eight_lanes_exchanges_rows_and_columns() => Transposes<Lanes8>();

    [Fact]
    public void Transposing_sixteen_lanes_exchanges_rows_and_columns() => Transposes<Lanes16>();

    private static void Functions<V>()
        where V : struct, ILanes<V>
    {
        for (var lane = 0; lane < V.Count; lane++)
        {
            for (var x = -3.0; x < 3; x += 0.0123)
            {
                var at = default(V).With(lane, (float)x);
                Assert.Equal(Math.Sin(2 * Math.PI * (float)x), Lanes.SinTurns(at).At(lane), 2e-6);
                Assert.Equal(1, Lanes.Exp2(at).At(lane) / Math.Pow(2, (float)x), 1e-6);
                Assert.Equal(0, Lanes.SinTurns(at).At((lane + 1) % V.Count));
            }

            for (var turn = 0.0; turn < 1; turn += 0.00321)
            {
                var phase = default(V).With(lane, BitConverter.UInt32BitsToSingle((uint)(turn * 4294967296.0)));
                Assert.Equal(Math.Sin(2 * Math.PI * turn), Lanes.Sin(phase).At(lane), 2e-6);
                Assert.Equal(turn - Math.Round(turn), Lanes.Turns(phase).At(lane), 1e-6);
            }

            for (var f = 0.0001; f < 0.45; f += 0.00371)
            {
                Assert.Equal(1, Lanes.FilterGain(default(V).With(lane, (float)f)).At(lane) / Math.Tan(Math.PI * (float)f), 2e-5);
            }
        }

        Assert.Equal(Math.Pow(2, -40), Lanes.Exp2(V.Of(-40)).At(0), 1e-17);
        var quarter = V.Of(BitConverter.UInt32BitsToSingle(1u << 30));
        Assert.Equal(0.25f, Lanes.Turns(V.Turned(default, quarter)).At(V.Count - 1));
        Assert.Equal(-0.25f, Lanes.Turns(V.Turned(V.Turned(quarter, quarter), quarter)).At(0)); // whole turns fall off
        Assert.Equal([0f, 0.5f], [V.AtLeast(V.Of(0.4f), V.Of(0.5f)).At(1), V.AtLeast(V.Of(0.5f), V.Of(0.5f)).At(1)]);
        Assert.True(V.AnyBelow(V.Of(1).With(V.Count - 1, -1), V.Of(0)));
        Assert.False(V.AnyBelow(V.Of(0), V.Of(0)));
    }

    private static void Transposes<V>()
        where V : struct, ILanes<V>
    {
        const int frames = 48;
        var samples = new V[frames];
        for (var frame = 0; frame < frames; frame++)
        {
            for (var lane = 0; lane < V.Count; lane++)
            {
                samples[frame] = samples[frame].With(lane, 100 * frame + lane);
            }
        }

        var lanes = new V[frames];
        V.Transpose(samples, lanes);
        for (var lane = 0; lane < V.Count; lane++)
        {
            for (var frame = 0; frame < frames; frame++)
            {
                var (vector, within) = Math.DivRem(lane * frames + frame, V.Count);
                Assert.Equal(100 * frame + lane, lanes[vector].At(within));
            }
        }
    }
}
