using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Views;

namespace GateSplit.Cli;

/// <summary>Opens an exported session.</summary>
internal static class SessionArgument
{
    /// <summary>Reads the file: a session without audio, or what one with its takes is at now.</summary>
    public static Result<SessionFile.Opened> Open(FileInfo file)
    {
        if (!BundleReader.IsZip(file.FullName))
        {
            return SessionFile.Read(File.ReadAllBytes(file.FullName));
        }

        var opened = BundleReader.Open(file.FullName);
        using var bundle = opened.Value;
        return bundle is null ? new Refusal(opened.Trouble!) : bundle.Now;
    }

    /// <summary>What checks and recorder look at.</summary>
    public static SplitView View(SessionFile.Opened session) =>
        SplitView.Of(session.File.Split, session.Song);
}
