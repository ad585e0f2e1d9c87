using System.Diagnostics;
using GateSplit.Core;

namespace GateSplit.Cli;

/// <summary>One line of progress with the time left, on a terminal only.</summary>
internal sealed class ConsoleProgress : IProgress<double>, IDisposable
{
    private readonly bool _shown = !Console.IsErrorRedirected;
    private readonly Stopwatch _clock = Stopwatch.StartNew();
    private readonly Lock _lock = new();
    private long _lastMilliseconds = -1000;

    /// <inheritdoc/>
    public void Report(double value)
    {
        if (!_shown)
        {
            return;
        }

        lock (_lock)
        {
            var now = _clock.ElapsedMilliseconds;
            if (now - _lastMilliseconds < 100)
            {
                return;
            }

            _lastMilliseconds = now;
            var left = value > 0 ? now / 1000.0 * (1 - value) / value : 0;
            Console.Error.Write($"\r{value * 100,3:0} %  {Words.Clock(left)} left  ");
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        if (_shown && _lastMilliseconds >= 0)
        {
            Console.Error.Write("\r                        \r");
        }
    }
}
