namespace GateSplit.Cli;

/// <summary>Turns what the file system refuses into a sentence and an exit code.</summary>
internal static class Guarded
{
    /// <summary>Runs a command.</summary>
    public static int Run(Func<int> command)
    {
        try
        {
            return command();
        }
        catch (OperationCanceledException)
        {
            return Refuse("Stopped. Nothing half-written was left behind.");
        }
        catch (AggregateException e) when (e.InnerException is IOException inner)
        {
            return Refuse($"{inner.Message} Nothing half-written was left behind.");
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return Refuse($"{e.Message} Nothing half-written was left behind.");
        }
    }

    /// <summary>Says why and gives the exit code for it.</summary>
    public static int Refuse(string sentence)
    {
        Console.Error.WriteLine($"gatesplit: {sentence}");
        return ExitCodes.Bad;
    }
}
