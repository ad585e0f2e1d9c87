using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Views;

namespace GateSplit.Cli;

/// <summary>Opens an exported session.</summary>
internal static class SessionArgument
{
    /// <summary>Reads the file.</summary>
    public static Result<SessionFile.Opened> Open(FileInfo file) => SessionFile.Read(File.ReadAllBytes(file.FullName));

    /// <summary>What checks and recorder look at.</summary>
    public static SplitView View(SessionFile.Opened session) =>
        SplitView.Of(session.File.Split, session.Song);
}
