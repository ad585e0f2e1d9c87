using System.Collections.Immutable;

namespace GateSplit.Core.Signal;

/// <summary>Finds loops as strongly connected components of more than one node, or of one that feeds itself.</summary>
/// <remarks>R. Tarjan, "Depth-first search and linear graph algorithms", SIAM J. Comput. 1 (1972).</remarks>
public static class LoopFinder
{
    /// <summary>Finds them.</summary>
    /// <param name="nodes">All nodes.</param>
    /// <param name="edges">From and to.</param>
    /// <returns>For each component one loop through it, in the order of its edges, beginning with the node that comes first.</returns>
    public static ImmutableArray<ImmutableArray<string>> Find(
        ImmutableArray<string> nodes, ImmutableArray<(string From, string To)> edges)
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

    private static ImmutableArray<string> Path(List<string> component, ImmutableArray<string> nodes, ILookup<string, string> next)
    {
        var inside = component.ToHashSet();
        var start = nodes.First(inside.Contains);
        var cameFrom = new Dictionary<string, string>();
        var queue = new Queue<string>([start]);
        while (queue.TryDequeue(out var node))
        {
            foreach (var to in next[node].Where(inside.Contains))
            {
                if (to == start)
                {
                    var path = new Stack<string>([node]);
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

    private sealed class Search(ILookup<string, string> next)
    {
        private readonly Dictionary<string, int> _index = [];
        private readonly Dictionary<string, int> _low = [];
        private readonly Stack<string> _stack = [];
        private readonly HashSet<string> _onStack = [];

        public List<List<string>> Components { get; } = [];

        public void Visit(string node)
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

            var component = new List<string>();
            string member;
            do
            {
                member = _stack.Pop();
                _onStack.Remove(member);
                component.Add(member);
            }
            while (member != node);
            Components.Add(component);
        }
    }
}
