namespace GateSplit.Data;

/// <summary>What lists show of a template.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Name">Its name.</param>
/// <param name="Version">The version it is about.</param>
/// <param name="Kind">What of a session it keeps.</param>
/// <param name="Gist">The same in words.</param>
/// <param name="MadeAt">When that version was kept.</param>
/// <param name="Versions">How many there are.</param>
public sealed record TemplateHead(long Id, string Name, int Version, string Kind, string Gist, DateTime MadeAt, long Versions);
