using GateSplit.Web.Hosting;

var options = ServeOptions.Read(args, Environment.GetEnvironmentVariable);
if (!options.Ok)
{
    Console.Error.WriteLine(options.Trouble);
    return 2;
}

if (await DatabaseAtStart.Prepare(options.Value.ConnectionString, Console.Error) is { } trouble)
{
    Console.Error.WriteLine(trouble);
    return 1;
}

var app = GateSplitApp.Build(options.Value);
var demo = new DemoData(app.Services);
await demo.Load();
await app.StartAsync();
var steps = demo.Play(app.Lifetime.ApplicationStopping);
Console.WriteLine($"Gate Split answers on http://{ServeOptions.Address}:{options.Value.Port}");
await app.WaitForShutdownAsync();
await steps;
return 0;
