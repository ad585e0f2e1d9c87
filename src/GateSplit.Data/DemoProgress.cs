namespace GateSplit.Data;

/// <summary>How far a demo session is.</summary>
/// <param name="Name">Its name as it ships.</param>
/// <param name="SessionId">The session.</param>
/// <param name="StepsDone">How many of its steps are done.</param>
/// <param name="Revision">The revision at which they left the session.</param>
public sealed record DemoProgress(string Name, long SessionId, int StepsDone, int Revision);
