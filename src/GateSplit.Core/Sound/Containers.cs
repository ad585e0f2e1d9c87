using System.Collections.Immutable;

namespace GateSplit.Core.Sound;

/// <summary>The kinds of files that are written.</summary>
public static class Containers
{
    /// <summary>The one in which everything is printed and kept.</summary>
    public static IContainer Wave { get; } = new WaveContainer();

    /// <summary>All of them.</summary>
    public static ImmutableArray<IContainer> All { get; } = [Wave, new FlacContainer()];

    /// <summary>The one of this id.</summary>
    /// <exception cref="ArgumentException">There is none.</exception>
    public static IContainer Of(string id) => All.FirstOrDefault(c => c.Id == id) ?? throw new ArgumentException($"There is no kind of file called {id}.", nameof(id));
}
