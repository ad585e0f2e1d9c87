using System.CommandLine;
using GateSplit.Cli;

var root = new RootCommand("Gate Split from a shell: cut, measure, compare, print, hand off, check and proof, bring sessions in and out.")
{
    CutCommand.Create(),
    MeasureCommand.Create(),
    PrintCommand.Create(),
    HandoffCommand.Create(),
    CheckCommand.Create(),
    CompareCommand.Create(),
    ProofCommand.Create(),
    AlignCommand.Create(),
    RollCallCommand.Create(),
    SessionCommand.Create(),
};

var parsed = root.Parse(args);
if (parsed.Errors.Count > 0)
{
    foreach (var error in parsed.Errors)
    {
        Console.Error.WriteLine($"gatesplit: {error.Message}");
    }

    Console.Error.WriteLine("gatesplit: --help tells how to use it.");
    return ExitCodes.Usage;
}

return Guarded.Run(() => parsed.Invoke(new InvocationConfiguration { EnableDefaultExceptionHandler = false }));
