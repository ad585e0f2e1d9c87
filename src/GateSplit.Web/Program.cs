using GateSplit.Data;
using GateSplit.Web;
using GateSplit.Web.Endpoints;

var options = ServeOptions.Read(args, Environment.GetEnvironmentVariable);
if (!options.Ok)
{
    Console.Error.WriteLine(options.Trouble);
    return 2;
}

var app = GateSplitApp.Build(options.Value);
await DemoData.LoadOnce(app.Services);
await app.StartAsync();
Console.WriteLine($"Gate Split answers on http://127.0.0.1:{options.Value.Port}");
await app.WaitForShutdownAsync();
return 0;
