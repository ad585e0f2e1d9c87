using GateSplit.Tests.Shared;

[assembly: AssemblyFixture(typeof(GateSplit.Web.Tests.DemoApp))]

namespace GateSplit.Web.Tests;

/// <summary>One application with the demo sessions for the tests that do not disturb each other.</summary>
public sealed class DemoApp : IAsyncLifetime
{
    public TestApp App { get; private set; } = null!;

    public async ValueTask InitializeAsync() => App = await TestApp.Start();

    public ValueTask DisposeAsync() => App.DisposeAsync();
}
