using System.Collections.Immutable;
using GateSplit.Core.Planning;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Planning;

/// <summary>Which file and which channel belong to which track.</summary>
public sealed class BringInPlanTests
{
    private static readonly Split Kit = Sessions.Kit.Split;

    [Fact]
    public void One_file_with_all_channels_goes_by_the_inputs()
    {
        var lines = BringInPlan.Of(Kit, [File("night.wav", 24)]);
        Assert.Equal(Kit.Tracks.Select(t => (t.Id, 0, t.Input!.Channel)), lines.Select(l => (l.TrackId, l.File, l.Channel)));
        Assert.All(lines, l => Assert.Equal("by the input", l.Why));
        Assert.Empty(BringInPlan.Of(Kit, [File("short.wav", 4)])); // it lacks the inputs of most tracks
    }

    [Fact]
    public void Files_go_by_their_names_the_longest_name_first()
    {
        var files = new[]
        {
            File("03 Snare Top take2.wav", 1), File("01_kick-in.WAV", 1), File("snare_bottom.flac", 1), File("Kick out (copy).wav", 1),
            File("Lamp Lit Overheads.aiff", 2), File("Hat.wav", 2), File("holiday.wav", 1), File("Room.wav", 1),
        };
        var lines = BringInPlan.Of(Kit, files);
        Assert.Equal(
            [("Kick in", 1), ("Kick out", 3), ("Snare top", 0), ("Snare bottom", 2), ("Hat", 5), ("Overheads", 4)],
            lines.Select(l => (Kit.Track(l.TrackId)!.Name, l.File)));
        Assert.DoesNotContain(lines, l => Kit.Track(l.TrackId)!.Name == "Room"); // a stereo track needs two channels
    }

    [Fact]
    public void A_channels_name_counts_before_a_files_and_a_short_files_name_before_a_long_one()
    {
        var named = File("take.wav", 4) with { ChannelNames = ImmutableDictionary<int, string>.Empty.Add(3, "Hat") };
        var lines = BringInPlan.Of(Kit, [File("Hat.wav", 1), named]).Where(l => Kit.Track(l.TrackId)!.Name == "Hat");
        Assert.Equal((1, 3, "by the channel's name"), lines.Select(l => (l.File, l.Channel, l.Why)).Single());
        Assert.Equal(1, BringInPlan.Of(Kit, [File("Hat second try.wav", 1), File("Hat.wav", 1), File("A hat.wav", 1)]).Single(l => Kit.Track(l.TrackId)!.Name == "Hat").File);
        Assert.Contains(BringInPlan.Remarks(Kit, [File("Room overheads.wav", 1)]), r => r.Contains("the track Overheads is stereo", StringComparison.Ordinal));
    }

    [Fact]
    public void Of_several_recordings_the_one_nearest_in_size_to_the_inputs_is_taken()
    {
        var fewer = Sessions.After(Kit, new Core.Edits.RemoveTrack(new TrackId("t11")), new Core.Edits.RemoveTrack(new TrackId("t12")));
        Assert.All(BringInPlan.Of(fewer, [File("small.wav", 20), File("near.wav", 25)]), l => Assert.Equal((1, "by the input"), (l.File, l.Why)));
        Assert.All(BringInPlan.Of(fewer, [File("large.wav", 29), File("near.wav", 22)]), l => Assert.Equal((1, "by the input"), (l.File, l.Why)));
    }

    [Fact]
    public void Channels_go_by_their_names_wherever_they_lie()
    {
        var file = File("take.wav", 6) with
        {
            ChannelNames = ImmutableDictionary<int, string>.Empty.Add(1, "Overheads L").Add(2, "Overheads R").Add(4, "SNARE TOP").Add(6, "Kick in").Add(5, "Room left"),
        };
        var lines = BringInPlan.Of(Kit, [file]);
        Assert.Equal(
            [("Kick in", 6), ("Overheads", 1), ("Room", 5), ("Snare top", 4)],
            lines.Select(l => (Kit.Track(l.TrackId)!.Name, l.Channel)).Order());
        Assert.All(lines, l => Assert.True(BringInPlan.Fits(Kit, [file], l)));
        Assert.False(BringInPlan.Fits(Kit, [file], lines[0] with { Channel = 7 }));
        Assert.False(BringInPlan.Fits(Kit, [file], lines[0] with { File = 1 }));
    }

    [Fact]
    public void A_file_with_just_as_many_channels_as_are_wanted_goes_in_order()
    {
        // Nine close microphones, then overheads, room and hall as pairs: 15 channels, where the inputs count in pairs up to 24.
        int[] channels = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14];
        var lines = BringInPlan.Of(Kit, [File("guide.wav", 1), File("night.wav", 15)]);
        Assert.Equal(Kit.Tracks.Zip(channels, (t, c) => (t.Id, 1, c, "in order")), lines.Select(l => (l.TrackId, l.File, l.Channel, l.Why)));
        Assert.Empty(BringInPlan.Of(Kit, [File("night.wav", 14)]));
    }

    [Fact]
    public void On_request_the_rest_goes_in_order_and_a_pair_stays_together()
    {
        var files = new[] { File("a.wav", 3), File("snare top.wav", 1), File("b.wav", 8), File("c.wav", 4) };
        var lines = Rest(Kit, files);
        Assert.Equal(
            [
                ("Kick in", 0, 1), ("Kick out", 0, 2), ("Snare top", 1, 1), ("Snare bottom", 0, 3), ("Hat", 2, 1), ("High tom", 2, 2), ("Mid tom", 2, 3),
                ("Floor tom", 2, 4), ("Ride", 2, 5), ("Overheads", 2, 6), ("Room", 3, 1), ("Hall return", 3, 3), // one channel of b.wav is left, and no pair
            ],
            lines.Select(l => (Kit.Track(l.TrackId)!.Name, l.File, l.Channel)));
        Assert.All(lines, l => Assert.True(BringInPlan.Fits(Kit, files, l)));
        Assert.Equal(10, Rest(Kit, files[..3]).Count); // the last two pairs find nothing any more

        // A pair for which there is nothing does not keep those behind it from what is there.
        var wideFirst = Kit with { Tracks = [Kit.Tracks.Single(t => t.Name == "Room"), .. Kit.Tracks.Where(t => t.Name.StartsWith("Kick", StringComparison.Ordinal))] };
        Assert.Equal(
            [("Kick in", 0), ("Kick out", 1)],
            Rest(wideFirst, [File("a.wav", 1), File("b.wav", 1)]).Select(l => (Kit.Track(l.TrackId)!.Name, l.File)));

        // What somebody chose stays, and its channels are not given twice.
        var byHand = new BroughtLine(Kit.Tracks[1].Id, 0, 1, "by hand");
        Assert.Equal(
            [("Kick in", 2), ("Kick out", 1), ("Snare top", 3)],
            BringInPlan.RestInOrder(Kit, [File("a.wav", 3)], [byHand]).Select(l => (Kit.Track(l.TrackId)!.Name, l.Channel)));

        static IReadOnlyList<BroughtLine> Rest(Split split, BroughtFile[] files) => BringInPlan.RestInOrder(split, files, BringInPlan.Of(split, files));
    }

    [Fact]
    public void Other_rates_and_other_lengths_are_told()
    {
        var remarks = BringInPlan.Remarks(Kit, [File("a.wav", 1), File("b.wav", 1) with { Frames = 90 }, File("c.wav", 1) with { Format = new AudioFormat(1, 44100, SampleFormat.Pcm16) }]);
        Assert.Equal(2, remarks.Length);
        Assert.StartsWith("c.wav runs at 44100 Hz, the session at 48000.", remarks[0], StringComparison.Ordinal);
        Assert.Equal("b.wav is 10 frames shorter than the longest file.", remarks[1]);
    }

    [Fact]
    public void A_file_of_one_channel_that_is_called_like_a_stereo_track_is_told()
    {
        Assert.Equal(
            ["Room 1.wav has one channel, and the track Room is stereo: make the track mono if the file is meant for it."],
            BringInPlan.Remarks(Kit, [File("Room 1.wav", 1), File("Overheads.wav", 2), File("Hat.wav", 1)]));
    }

    private static BroughtFile File(string name, int channels) =>
        new(name, new AudioFormat(channels, 48000, SampleFormat.Pcm24), 100, ImmutableDictionary<int, string>.Empty);
}
