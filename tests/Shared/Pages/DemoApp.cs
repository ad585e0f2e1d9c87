using GateSplit.Tests.Shared;

[assembly: AssemblyFixture(typeof(DemoApp))]

namespace GateSplit.Tests.Shared;

/// <summary>One application with the demo sessions for all tests that do not disturb each other.</summary>
public sealed class DemoApp : IAsyncLifetime
{
    /// <summary>The application.</summary>
    public PageApp App { get; private set; } = null!;

    /// <inheritdoc/>
    public async ValueTask InitializeAsync() => App = await PageApp.Start();

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => App.DisposeAsync();
}
