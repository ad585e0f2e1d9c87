namespace GateSplit.Core.Drawing;

/// <summary>A place in a drawing.</summary>
/// <param name="X">To the right, in drawing units.</param>
/// <param name="Y">Downward.</param>
public readonly record struct Point(double X, double Y);
