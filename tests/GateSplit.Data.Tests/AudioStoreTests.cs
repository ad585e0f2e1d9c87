using System.Security.Cryptography;
using System.Text;

namespace GateSplit.Data.Tests;

public sealed class AudioStoreTests : IDisposable
{
    private readonly string _root = Directory.CreateTempSubdirectory("gate-split-store-").FullName;
    private readonly FolderAudioStore _store;

    public AudioStoreTests() => _store = new FolderAudioStore(_root);

    public void Dispose() => Directory.Delete(_root, recursive: true);

    [Fact]
    public async Task A_file_is_found_by_the_hash_of_its_bytes()
    {
        var bytes = RandomNumberGenerator.GetBytes(3_000_000);
        var hash = await Adopt("x.wav", bytes);
        Assert.Matches("^[0-9a-f]{32}$", hash);
        Assert.False(File.Exists(Path.Combine(_store.Staging("job-1"), "x.wav")));
        Assert.Equal(bytes, await File.ReadAllBytesAsync(_store.Find(hash)!, TestContext.Current.CancellationToken));
        Assert.Equal(hash, await Adopt("again.wav", bytes));
        Assert.NotEqual(hash, await Adopt("other.wav", [.. bytes[..^1], (byte)~bytes[^1]]));
        _store.Remove(hash);
        Assert.Null(_store.Find(hash));
    }

    /// <summary>What xxh128sum of Debian's package xxhash 0.8.1 says.</summary>
    [Theory]
    [InlineData("", "99aa06d3014798d86001c324468d497f")]
    [InlineData("Gate Split", "439092225a5a7ab3da3d3d2c84a56ac2")]
    public async Task The_hash_is_the_one_another_tool_gives(string text, string hash) =>
        Assert.Equal(hash, await Adopt("x.wav", Encoding.UTF8.GetBytes(text)));

    [Theory]
    [InlineData(0)] // as long
    [InlineData(-1)]
    [InlineData(1)]
    public async Task Other_bytes_under_the_same_hash_are_kept_beside_it(int longer)
    {
        var bytes = RandomNumberGenerator.GetBytes(2_500_000);
        var place = _store.Find(await Adopt("x.wav", bytes))!;
        var planted = RandomNumberGenerator.GetBytes(bytes.Length + longer);
        bytes.AsSpan(0, Math.Min(bytes.Length, planted.Length)).CopyTo(planted);
        planted[^1] ^= 1; // only the end differs
        await File.WriteAllBytesAsync(place, planted, TestContext.Current.CancellationToken);

        var name = await Adopt("x.wav", bytes);
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), name);
        Assert.Equal(bytes, await File.ReadAllBytesAsync(_store.Find(name)!, TestContext.Current.CancellationToken));
        Assert.Equal(planted, await File.ReadAllBytesAsync(place, TestContext.Current.CancellationToken));
    }

    private async Task<string> Adopt(string name, byte[] bytes)
    {
        var path = Path.Combine(_store.Staging("job-1"), name);
        await File.WriteAllBytesAsync(path, bytes, TestContext.Current.CancellationToken);
        var hash = await _store.NameOf(path, TestContext.Current.CancellationToken);
        _store.Adopt(path, hash);
        return hash;
    }

    [Theory]
    [InlineData("../../etc/passwd")]
    [InlineData("")]
    [InlineData("ABCDEF0123456789ABCDEF0123456789ABCDEF0123456789ABCDEF0123456789")]
    public void Nothing_but_a_hash_is_ever_a_path(string name)
    {
        Assert.Null(_store.Find(name));
        _store.Remove(name);
    }

    [Fact]
    public void A_staging_folder_goes_with_all_that_is_in_it()
    {
        File.WriteAllText(Path.Combine(_store.Staging("job-7"), "half.wav.part"), "x");
        Assert.Equal(["job-7"], _store.StagingNames());
        _store.Discard("job-7");
        Assert.Empty(_store.StagingNames());
    }
}
