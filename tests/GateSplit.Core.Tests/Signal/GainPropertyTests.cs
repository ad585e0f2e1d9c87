using CsCheck;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Signal;

/// <summary>The contribution of a path is the product of its gains, worked out here from the formulas by hand.</summary>
public sealed class GainPropertyTests
{
    [Fact]
    public void A_pad_in_a_group_arrives_with_fader_group_fader_and_pan()
    {
        var (split, _) = Sessions.Laid(TansyGrid.Chart);
        var pad = new ElementRef(new UnitId("u1"), new ElementId("a1"));
        Gen.Select(Gen.Double[-60, 12], Gen.Double[-60, 12], Gen.Double[-1, 1], Gen.Int[2, 20]).Sample((fader, group, pan, port) =>
        {
            var set = Sessions.After(
                split,
                new AssignPort(pad, null),
                new SetFader(pad, new Decibels(fader)),
                new SetPan(pad, new Pan(pan)),
                new SetGroup(new UnitId("u1"), new UnitGroup("Group A") { FaderDb = new Decibels(group), Port = port }),
                new AddTrack(new Track(new TrackId("t900"), "Pair", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 2 * port - 1) }),
                new AddTrack(new Track(new TrackId("t901"), "Right", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 2 * port) }));
            var gain = Math.Pow(10, (fader + group) / 20);
            var left = gain * Math.Cos((pan + 1) * Math.PI / 4);
            var right = gain * Math.Sin((pan + 1) * Math.PI / 4);
            var reaching = SplitSignal.Of(set).Reaching(pad).ToDictionary(c => c.TrackId, c => c.Gain);
            Assert.Equal(left, reaching[new TrackId("t900")].LL, 1e-9);
            Assert.Equal(right, reaching[new TrackId("t900")].RL, 1e-9);
            Assert.Equal(right, reaching.GetValueOrDefault(new TrackId("t901")).LL, 1e-9);
        });
    }

    [Fact]
    public void A_line_through_buses_keeps_its_gain_and_two_ways_add()
    {
        var (split, _) = Sessions.Drums;
        var kick = new ElementRef(new UnitId("u1"), new ElementId("kick"));
        Gen.Select(Gen.Double[-40, 12], Gen.Int[1, 4]).Sample((fader, length) =>
        {
            // A chain of buses from the kick's track, and the kick's own track once more into the last of them.
            var set = Sessions.After(split, new SetFader(kick, new Decibels(fader)), new SetTrackBus(new TrackId("t1"), new InputRef(new BankId("buses"), 1)));
            for (var i = 1; i <= length; i++)
            {
                set = Sessions.After(set, new AddTrack(new Track(new TrackId($"t{900 + i}"), $"Bus {i}", Width.Mono)
                {
                    Input = new InputRef(new BankId("buses"), i),
                    Bus = i < length ? new InputRef(new BankId("buses"), i + 1) : null,
                    Monitor = MonitorMode.Always,
                }));
            }

            var twice = Sessions.After(set, new AddTrack(new Track(new TrackId("t950"), "Again", Width.Mono)
            {
                Input = Sessions.TrackOf(set, "Kick").Input,
                Bus = new InputRef(new BankId("buses"), length),
                Monitor = MonitorMode.Always,
            }));
            double Into(Split s) => SplitSignal.Of(s).Reaching(kick).Single(c => c.TrackId.Value == $"t{900 + length}").Gain.LL;
            Assert.Equal(Math.Pow(10, fader / 20), Into(set), 1e-9);
            Assert.Equal(2 * Math.Pow(10, fader / 20), Into(twice), 1e-9);
        });
    }
}
