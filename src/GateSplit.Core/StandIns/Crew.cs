using System.Runtime.ExceptionServices;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Threads that do lists of pieces of work together, one list after the other. They stay awake from one list to the next. One half
/// takes pieces from the front, the other from the back, so that a piece is mostly done by the same thread each time, which
/// has what it needs in its cache; pieces that share something should lie side by side, and the short ones in the middle.
/// </summary>
internal sealed class Crew : IDisposable
{
    /// <summary>How often one looks for work before it sleeps: some tenths of a millisecond.</summary>
    private const int Looks = 300;

    private readonly Thread[] _helpers;
    private readonly ManualResetEventSlim[] _begin;
    private readonly ManualResetEventSlim _done = new(initialState: false, Looks);
    private Action<int> _piece = _ => { };
    private int _count;
    private int _taken;
    private int _front;
    private int _back;
    private int _busy;
    private bool _dismissed;
    private ExceptionDispatchInfo? _failure;

    /// <summary>Makes a crew.</summary>
    /// <param name="threads">How many threads, the one that calls among them.</param>
    public Crew(int threads)
    {
        _begin = [.. Enumerable.Range(1, threads - 1).Select(_ => new ManualResetEventSlim(initialState: false, Looks))];
        _helpers = [.. _begin.Select((begin, i) => new Thread(() => Help(begin, fromFront: i % 2 == 1)) { IsBackground = true, Name = "Crew" })];
        foreach (var helper in _helpers)
        {
            helper.Start();
        }
    }

    /// <summary>Does all pieces, and comes back when the last one is done. What a piece throws is thrown here.</summary>
    /// <param name="count">How many there are.</param>
    /// <param name="piece">Does the one of a number from 0.</param>
    public void Do(int count, Action<int> piece)
    {
        (_piece, _count, _taken, _front, _back) = (piece, count, 0, 0, 0);
        if (_helpers.Length > 0)
        {
            _done.Reset();
            Volatile.Write(ref _busy, _helpers.Length);
            foreach (var begin in _begin)
            {
                begin.Set();
            }
        }

        TakePieces(fromFront: true);
        if (_helpers.Length > 0)
        {
            _done.Wait();
        }

        if (_failure is { } failure)
        {
            _failure = null;
            failure.Throw();
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _dismissed = true;
        foreach (var begin in _begin)
        {
            begin.Set();
        }

        foreach (var helper in _helpers)
        {
            helper.Join();
        }

        foreach (var begin in _begin)
        {
            begin.Dispose();
        }

        _done.Dispose();
    }

    private void Help(ManualResetEventSlim begin, bool fromFront)
    {
        while (true)
        {
            begin.Wait();
            begin.Reset();
            if (_dismissed)
            {
                return;
            }

            TakePieces(fromFront);
            if (Interlocked.Decrement(ref _busy) == 0)
            {
                _done.Set();
            }
        }
    }

    private void TakePieces(bool fromFront)
    {
        while (Interlocked.Increment(ref _taken) <= _count)
        {
            // As many are taken from both ends together as there are, so no piece is taken twice.
            var number = fromFront ? Interlocked.Increment(ref _front) - 1 : _count - Interlocked.Increment(ref _back);
            try
            {
                _piece(number);
            }
            catch (Exception e)
            {
                Interlocked.CompareExchange(ref _failure, ExceptionDispatchInfo.Capture(e), null);
                return;
            }
        }
    }
}
