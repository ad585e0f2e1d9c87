using System.Net;
using GateSplit.Core;

namespace GateSplit.Web.Hosting;

/// <summary>Where the program listens and keeps its things.</summary>
/// <param name="Port">The port on loopback.</param>
/// <param name="ConnectionString">Of the database.</param>
/// <param name="DataFolder">Audio store and keys.</param>
/// <param name="Demo">True to load the demo sessions into an empty database.</param>
/// <param name="QuickDemo">True to print only the first of them.</param>
/// <param name="Proofs">True to prove each take by itself.</param>
/// <param name="Sheets">Where setup sheets that somebody opened can be reached from a phone, and nothing else; null for nowhere.</param>
public sealed record ServeOptions(int Port, string ConnectionString, string DataFolder, bool Demo, bool QuickDemo = false, bool Proofs = true, IPEndPoint? Sheets = null)
{
    /// <summary>The only address until people can sign in: whoever reaches the port can change and delete everything.</summary>
    public const string Address = "127.0.0.1";

    /// <summary>The port where nothing else is said.</summary>
    public const int DefaultPort = 5380;

    /// <summary>Reads --port N, --data FOLDER, --listen ADDRESS, --sheets ADDRESS, --no-demo, --quick-demo and --no-proofs, and the variable GATESPLIT_DB.</summary>
    public static Result<ServeOptions> Read(IReadOnlyList<string> arguments, Func<string, string?> variable)
    {
        var port = DefaultPort;
        var folder = "var";
        var demo = true;
        var quick = false;
        IPEndPoint? sheets = null;
        var proofs = true;
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
                case "--listen" when value is Address or "localhost":
                    i++;
                    break;
                case "--listen" when value.Length > 0:
                    return new Refusal($"Gate Split does not listen on {value}: nobody signs in yet, so everybody who reached it could change and delete everything. It answers on {Address} only; a tunnel brings it to another machine.");
                case "--sheets" when IPEndPoint.TryParse(value, out sheets):
                    i++;
                    break;
                case "--sheets":
                    return new Refusal("--sheets needs the address of this machine in the network of the phone, as 192.168.1.20, or 0.0.0.0 for all that it has; with a port, 192.168.1.20:5381.");
                case "--no-demo":
                    demo = false;
                    break;
                case "--quick-demo":
                    quick = true;
                    break;
                case "--no-proofs":
                    proofs = false;
                    break;
                default:
                    return new Refusal($"{arguments[i]} is not understood here. Use --port N, --data FOLDER, --listen ADDRESS, --sheets ADDRESS, --no-demo, --quick-demo or --no-proofs.");
            }
        }

        return variable("GATESPLIT_DB") is { Length: > 0 } database
            ? new ServeOptions(port, database, Path.GetFullPath(folder), demo, quick, proofs, sheets is { Port: 0 } ? new IPEndPoint(sheets.Address, port == 65535 ? port - 1 : port + 1) : sheets)
            : new Refusal("GATESPLIT_DB must name the database. ./run starts one and sets it.");
    }
}
