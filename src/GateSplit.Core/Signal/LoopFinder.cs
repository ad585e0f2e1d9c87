using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>Finds loops as strongly connected components of more than one node, or of one that feeds itself.</summary>
/// <remarks>R. Tarjan, "Depth-first search and linear graph algorithms", SIAM J. Comput. 1 (1972).</remarks>
public static class LoopFinder
{
    /// <summary>Finds them.</summary>
    /// <param name="nodes">All nodes.</param>
    /// <param name="edges">From and to.</param>
    /// <returns>For each component one loop through it, in the order of its edges, beginning with the node that comes first.</returns>
    public static ImmutableArray<ImmutableArray<TrackId>> Find(
        ImmutableArray<TrackId> nodes, ImmutableArray<(TrackId From, TrackId To)> edges)
    {
        var next = edges.ToLookup(e => e.From, e => e.To);
        var search = new Search(next);
        foreach (var node in nodes)
        {
            search.Visit(node);
        }

        return [.. search.Components
            .Where(c => c.Count > 1 || next[c[0]].Contains(c[0]))
            .Select(c => Path(c, nodes, next))];
    }

    private static ImmutableArray<TrackId> Path(List<TrackId> component, ImmutableArray<TrackId> nodes, ILookup<TrackId, TrackId> next)
    {
        var inside = component.ToHashSet();
        var start = nodes.First(inside.Contains);
        var cameFrom = new Dictionary<TrackId, TrackId>();
        var queue = new Queue<TrackId>([start]);
        while (queue.TryDequeue(out var node))
        {
            foreach (var to in next[node].Where(inside.Contains))
            {
                if (to == start)
                {
                    var path = new Stack<TrackId>([node]);
                    while (path.Peek() != start)
                    {
                        path.Push(cameFrom[path.Peek()]);
                    }

                    return [.. path];
                }

                if (cameFrom.TryAdd(to, node))
                {
                    queue.Enqueue(to);
                }
            }
        }

        return [start];
    }

    private sealed class Search(ILookup<TrackId, TrackId> next)
    {
        private readonly Dictionary<TrackId, int> _index = [];
        private readonly Dictionary<TrackId, int> _low = [];
        private readonly Stack<TrackId> _stack = [];
        private readonly HashSet<TrackId> _onStack = [];

        public List<List<TrackId>> Components { get; } = [];

        public void Visit(TrackId node)
        {
            if (_index.ContainsKey(node))
            {
                return;
            }

            _index[node] = _low[node] = _index.Count;
            _stack.Push(node);
            _onStack.Add(node);
            foreach (var to in next[node])
            {
                if (!_index.ContainsKey(to))
                {
                    Visit(to);
                    _low[node] = Math.Min(_low[node], _low[to]);
                }
                else if (_onStack.Contains(to))
                {
                    _low[node] = Math.Min(_low[node], _index[to]);
                }
            }

            if (_low[node] != _index[node])
            {
                return;
            }

            var component = new List<TrackId>();
            TrackId member;
            do
            {
                member = new TrackId(_stack.Pop().Value);
                _onStack.Remove(member);
                component.Add(member);
            }
            while (member != node);
            Components.Add(component);
        }
    }
}
