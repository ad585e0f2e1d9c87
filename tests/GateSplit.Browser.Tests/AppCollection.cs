using GateSplit.Tests.Shared;

[assembly: AssemblyFixture(typeof(GateSplit.Browser.Tests.DemoApp))]

namespace GateSplit.Browser.Tests;

/// <summary>One application with the demo sessions for all tests that only look.</summary>
public sealed class DemoApp : IAsyncLifetime
{
    public TestApp App { get; private set; } = null!;

    public async ValueTask InitializeAsync() => App = await TestApp.Start();

    public ValueTask DisposeAsync() => App.DisposeAsync();
}
