using System.Security.Cryptography;
using GateSplit.Data;

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
        var bytes = RandomNumberGenerator.GetBytes(100_000);
        var path = Path.Combine(_store.Staging("job-1"), "x.wav");
        await File.WriteAllBytesAsync(path, bytes, TestContext.Current.CancellationToken);
        var hash = await _store.Adopt(path, TestContext.Current.CancellationToken);
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), hash);
        Assert.False(File.Exists(path));
        Assert.Equal(bytes, await File.ReadAllBytesAsync(_store.Find(hash)!, TestContext.Current.CancellationToken));
        _store.Remove(hash);
        Assert.Null(_store.Find(hash));
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
