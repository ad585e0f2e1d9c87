using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>How much may wait to be cut: what is declared counts from the beginning.</summary>
public sealed class UploadRoomTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-room-").FullName;
    private readonly FolderAudioStore _store;
    private readonly UploadRoom _room;

    public UploadRoomTests()
    {
        _store = new FolderAudioStore(_folder);
        _room = new UploadRoom(_store, new UploadLimits(File: 100, Session: 150, InAll: 300));
    }

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public void Each_limit_holds_to_the_byte_and_counts_what_is_declared()
    {
        Assert.Equal(100, _room.Left(1).Count);
        Assert.Contains("larger than 100 bytes", _room.Begin(1, "a.wav", 101).Trouble);
        Assert.True(_room.Begin(1, "a.wav", 100).Ok);
        Assert.Equal((50, 100), (_room.Left(1).Count, _room.Of(1).Count));
        Assert.Contains("may wait to be cut in one session", _room.Begin(1, "b.wav", 51).Trouble);
        Assert.True(_room.Begin(1, "b.wav", 50).Ok);
        Assert.Equal(0, _room.Left(1).Count);
        Assert.True(_room.Begin(2, "c.wav", 100).Ok);
        Assert.Equal(50, _room.Left(3).Count);
        Assert.Contains("in all sessions together", _room.Begin(3, "d.wav", 51).Trouble);
        Assert.True(_room.Begin(3, "d.wav", 50).Ok);
        Assert.Equal(0, _room.Left(4).Count);
    }

    [Fact]
    public void What_is_to_become_a_session_has_the_room_of_one_and_says_so()
    {
        Assert.True(_room.Begin(ResumableUpload.NewSession, "a.zip", 100).Ok);
        Assert.Equal((50, 100), (_room.Left(ResumableUpload.NewSession).Count, _room.Left(1).Count));
        Assert.Equal("Sessions of 150 bytes may be on their way in together, and with this there would be 151 bytes. Wait for those that are coming.", _room.Begin(ResumableUpload.NewSession, "b.zip", 51).Trouble);
        Assert.True(_room.Begin(ResumableUpload.NewSession, "b.zip", 50).Ok);
    }

    [Fact]
    public void The_room_on_the_disk_is_what_others_who_began_have_left_of_it()
    {
        var store = new StoreOnTheWay(_store) { Free = 120 };
        var room = new UploadRoom(store, new UploadLimits(File: 1000, Session: 1000, InAll: 1000));
        Assert.Equal(60, room.Left(1).Count); // the recording, and what is cut of it
        Assert.Contains("The disk is too full: what comes and what is made of it need 122 bytes, and 120 bytes are free.", room.Begin(1, "a.wav", 61).Trouble);
        var begun = room.Begin(1, "a.wav", 60).Value!;
        Assert.Equal(30, room.Left(2).Count);
        Assert.Contains("need 62 bytes, and 60 bytes are free", room.Begin(2, "b.wav", 31).Trouble);

        // What has come of it is on the disk already, which says so itself.
        File.WriteAllBytes(begun.DataPath, new byte[60]);
        store.Free = 60;
        Assert.Equal(30, room.Left(2).Count);
        Assert.True(room.Begin(2, "b.wav", 30).Ok);
    }

    [Fact]
    public void What_came_whole_counts_until_it_is_cut_and_goes_with_its_session()
    {
        var folder = BroughtFolder.Make(_store, 1);
        File.WriteAllBytes(folder.Incoming(0), new byte[60]);
        Assert.InRange(_room.Of(1).Count, 60, 100); // and a few bytes of our own
        Assert.True(_room.Begin(1, "a.wav", 10).Ok);
        var theirs = _room.Begin(2, "b.wav", 10).Value!;
        _room.Discard(1);
        Assert.Equal(0, _room.Of(1).Count);
        Assert.Equal(10, _room.Of(2).Count);
        Assert.NotNull(ResumableUpload.Find(_store, theirs.Key));
        Assert.Null(BroughtFolder.Find(_store, folder.Name));
    }

    [Fact]
    public void A_form_on_its_way_counts_as_what_it_said_until_all_has_come()
    {
        var folder = BroughtFolder.Make(_store, 1, 100);
        Assert.Equal(100, _room.Of(1).Count);
        Assert.Contains("may wait to be cut in one session", _room.Begin(1, "a.wav", 51).Trouble);
        Assert.True(_room.Begin(1, "a.wav", 50).Ok);
        File.WriteAllText(Path.Combine(_store.Staging(folder.Name), "files.json"), "[]");
        Assert.InRange(_room.Of(1).Count, 50, 149); // what is here of it, and the other
    }

    [Fact]
    public void The_room_that_packed_files_need_is_that_of_their_samples()
    {
        var folder = BroughtFolder.Make(_store, 1);
        var wave = Path.Combine(_folder, "a.wav");
        Programs.Run("sox", "-n", "-r", "48000", "-b", "24", "-c", "2", wave, "trim", "0", "2"); // silence, packed to nearly nothing
        Programs.Run("ffmpeg", "-v", "error", "-i", wave, "-f", "flac", folder.Incoming(0));
        File.Copy(wave, folder.Incoming(1));
        Assert.True(new FileInfo(folder.Incoming(0)).Length < 20_000);
        Assert.Null(folder.TakeIn(["a.flac", "a.wav"]));
        Assert.Equal(2 * 48000 * 2 * 3, folder.RoomToUnpack([0, 1]).Count);
        Assert.Equal(0, folder.RoomToUnpack([1]).Count);
        Assert.Null(folder.MakeWave(0, TestContext.Current.CancellationToken));
        Assert.Equal(0, folder.RoomToUnpack([0, 1]).Count);
    }

    [Fact]
    public void Files_of_another_session_are_not_found()
    {
        var folder = BroughtFolder.Make(_store, 1);
        File.Copy(Path.Combine(AppContext.BaseDirectory, "GateSplit.Core.dll"), folder.Incoming(0));
        Assert.NotNull(folder.TakeIn(["x.dll"])); // no sound
        File.WriteAllText(Path.Combine(_store.Staging(folder.Name), "files.json"), "[]");
        Assert.NotNull(BroughtFolder.Find(_store, folder.Name, 1));
        Assert.Null(BroughtFolder.Find(_store, folder.Name, 2));
    }
}
