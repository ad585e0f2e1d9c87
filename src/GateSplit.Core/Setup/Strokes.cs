using System.Collections.Immutable;

namespace GateSplit.Core.Setup;

/// <summary>
/// The fewest actions that bring a column of rows from what it holds to what it shall hold, where one action gives neighbouring rows the same, or
/// what counts upward, and a later action may go over a part of an earlier one: regular runs first, exceptions after.
/// </summary>
public static class Strokes
{
    /// <summary>Finds them.</summary>
    /// <typeparam name="T">What a row holds.</typeparam>
    /// <param name="now">What the rows hold.</param>
    /// <param name="wanted">What they shall hold.</param>
    /// <param name="at">
    /// What row b holds after an action that gives row a what it shall hold, counting upward or giving the same; null where such an action cannot reach
    /// that row, even if a later one would go over it.
    /// </param>
    /// <returns>The actions in the order in which they are done.</returns>
    /// <remarks>
    /// Strokes of a best solution can be shortened until each begins and ends at a row that stays as it left it, and then lie one within the other or
    /// apart. So the best for a stretch is either its first row by itself and then the rest, or its first row in one stroke with a later one of the same
    /// run, with the best for what lies between on top. O(n^3).
    /// </remarks>
    public static ImmutableArray<Stroke<T>> Fewest<T>(IReadOnlyList<T> now, IReadOnlyList<T> wanted, Func<int, int, bool, Held<T>?> at) =>
        now.SequenceEqual(wanted) ? [] : new Search<T>(now, wanted, at).Found();

    /// <summary>Finds them where an action gives all its rows the same.</summary>
    /// <typeparam name="T">What a row holds.</typeparam>
    /// <param name="now">What the rows hold.</param>
    /// <param name="wanted">What they shall hold.</param>
    public static ImmutableArray<Stroke<T>> Fewest<T>(IReadOnlyList<T> now, IReadOnlyList<T> wanted) =>
        Fewest(now, wanted, (a, _, counts) => counts ? null : new Held<T>(wanted[a]));

    /// <summary>What a row holds, so that nothing to hold differs from nothing that reaches it.</summary>
    /// <typeparam name="T">What it holds.</typeparam>
    /// <param name="Value">The same.</param>
    public readonly record struct Held<T>(T Value);

    private sealed class Search<T>
    {
        private static readonly bool[] Ways = [true, false];
        private readonly IReadOnlyList<T> _now;
        private readonly IReadOnlyList<T> _wanted;

        // Of rows i to j, none of them right before: how many strokes, whether that of row i counts, and which row shares it next (-1 for none).
        private readonly (int Strokes, bool Counts, int Next)[,] _best;

        // The same where the way of row i is given; by 0 and 1.
        private readonly (int Strokes, int Next)[,,] _byWay;
        private readonly ImmutableArray<Stroke<T>>.Builder _found = ImmutableArray.CreateBuilder<Stroke<T>>();

        public Search(IReadOnlyList<T> now, IReadOnlyList<T> wanted, Func<int, int, bool, Held<T>?> at)
        {
            (_now, _wanted) = (now, wanted);
            var n = wanted.Count;
            _best = new (int, bool, int)[n, n];
            _byWay = new (int, int)[2, n, n];
            for (var i = n - 1; i >= 0; i--)
            {
                foreach (var counts in Ways)
                {
                    Begin(i, counts, at);
                }

                for (var j = i; j < n; j++)
                {
                    var counts = _byWay[1, i, j].Strokes < _byWay[0, i, j].Strokes;
                    var (strokes, next) = _byWay[counts ? 1 : 0, i, j];
                    _best[i, j] = (strokes, counts, next);
                }
            }
        }

        /// <summary>All rows, with what is right already left alone.</summary>
        public ImmutableArray<Stroke<T>> Found()
        {
            var n = _wanted.Count;
            var rest = new int[n + 1];
            var until = new int[n]; // the last row of the stretch that begins here; none where the row is left alone
            for (var i = n - 1; i >= 0; i--)
            {
                (rest[i], until[i]) = Same(_now[i], _wanted[i]) ? (rest[i + 1], -1) : (int.MaxValue, i);
                for (var j = i; j < n; j++)
                {
                    if (_best[i, j].Strokes + rest[j + 1] < rest[i])
                    {
                        (rest[i], until[i]) = (_best[i, j].Strokes + rest[j + 1], j);
                    }
                }
            }

            for (var i = 0; i < n; i = Math.Max(i, until[i]) + 1)
            {
                Put(i, until[i]);
            }

            return _found.ToImmutable();
        }

        private static bool Same(T a, T b) => EqualityComparer<T>.Default.Equals(a, b);

        private int Strokes(int i, int j) => i > j ? 0 : _best[i, j].Strokes;

        private void Begin(int i, bool counts, Func<int, int, bool, Held<T>?> at)
        {
            var (n, way) = (_wanted.Count, counts ? 1 : 0);
            for (var j = i; j < n; j++)
            {
                _byWay[way, i, j] = (1 + Strokes(i + 1, j), -1);
            }

            for (var k = i + 1; k < n && at(i, k, counts) is { } held; k++)
            {
                if (Same(held.Value, _wanted[k]))
                {
                    for (var j = k; j < n; j++)
                    {
                        var strokes = Strokes(i + 1, k - 1) + _byWay[way, k, j].Strokes;
                        _byWay[way, i, j] = strokes < _byWay[way, i, j].Strokes ? (strokes, k) : _byWay[way, i, j];
                    }
                }
            }
        }

        private void Put(int i, int j)
        {
            if (i <= j)
            {
                var place = _found.Count;
                _found.Add(new Stroke<T>(i, i, _wanted[i], _best[i, j].Counts));
                Put(i, j, place);
            }
        }

        /// <summary>Puts what goes on with a stroke that was begun: it lies beneath all that is put after it.</summary>
        private void Put(int i, int j, int place)
        {
            if (_byWay[_found[place].Counts ? 1 : 0, i, j].Next is var next and >= 0)
            {
                _found[place] = _found[place] with { Last = next };
                Put(i + 1, next - 1);
                Put(next, j, place);
            }
            else
            {
                Put(i + 1, j);
            }
        }
    }
}
