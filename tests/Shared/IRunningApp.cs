namespace GateSplit.Tests.Shared;

/// <summary>The application while it runs, in this process or another.</summary>
public interface IRunningApp : IAsyncDisposable
{
    /// <summary>Where it listens, on 127.0.0.1.</summary>
    int Port { get; }

    /// <summary>A client for it that keeps no cookies.</summary>
    HttpClient Http { get; }

    /// <summary>Its database.</summary>
    string ConnectionString { get; }

    /// <summary>Its folder.</summary>
    string Folder { get; }
}
