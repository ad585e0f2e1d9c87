using GateSplit.Core;

namespace GateSplit.Web;

/// <summary>Where the program listens and keeps its things.</summary>
/// <param name="Port">The port on loopback.</param>
/// <param name="ConnectionString">Of the database.</param>
/// <param name="DataFolder">Audio store and keys.</param>
/// <param name="Demo">True to load the demo sessions into an empty database.</param>
public sealed record ServeOptions(int Port, string ConnectionString, string DataFolder, bool Demo)
{
    /// <summary>The port where nothing else is said.</summary>
    public const int DefaultPort = 5380;

    /// <summary>Reads --port N, --data FOLDER and --no-demo, and the variable GATESPLIT_DB.</summary>
    public static Result<ServeOptions> Read(IReadOnlyList<string> arguments, Func<string, string?> variable)
    {
        var port = DefaultPort;
        var folder = "var";
        var demo = true;
        for (var i = 0; i < arguments.Count; i++)
        {
            var value = i + 1 < arguments.Count ? arguments[i + 1] : "";
            switch (arguments[i])
            {
                case "--port" when int.TryParse(value, out port) && port is > 0 and < 65536:
                    i++;
                    break;
                case "--data" when value.Length > 0:
                    folder = value;
                    i++;
                    break;
                case "--no-demo":
                    demo = false;
                    break;
                default:
                    return new Refusal($"{arguments[i]} is not understood here. Use --port N, --data FOLDER or --no-demo.");
            }
        }

        return variable("GATESPLIT_DB") is { Length: > 0 } database
            ? new ServeOptions(port, database, Path.GetFullPath(folder), demo)
            : new Refusal("GATESPLIT_DB must name the database. ./run starts one and sets it.");
    }
}
