using GateSplit.Core.Drawing;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Endpoints;

/// <summary>Parts of waveforms for the view that zooms.</summary>
public static class WaveformEndpoints
{
    private const int MostColumns = 4096;
    private const int MostAtOnce = 64;
    private const double MostTall = 10_000;

    /// <summary>Maps /waveforms?of=…: for each waveform that is named, its path data; null for one that is not there.</summary>
    public static void MapWaveforms(this IEndpointRouteBuilder app) =>
        app.MapGet("/waveforms", async (string[] of, double from, double frames, int columns, double? tall, Waveforms waveforms) =>
        {
            if (of.Length > MostAtOnce || columns is < 1 or > MostColumns || !(frames >= 1 && frames < 1e12 && Math.Abs(from) < 1e12) || tall is < 1 or > MostTall)
            {
                return Results.BadRequest($"At most {MostAtOnce} waveforms of at most {MostColumns} columns are drawn at once.");
            }

            var drawn = new Drawn?[of.Length];
            await Parallel.ForEachAsync(Enumerable.Range(0, of.Length), async (i, _) =>
            {
                using var open = await waveforms.Open(of[i]);
                drawn[i] = open is null ? null : Draw(open, from, frames, columns, tall ?? 1);
            });
            return Results.Json(drawn);
        });

    private static Drawn Draw(OpenWaveform open, double from, double frames, int columns, double tall)
    {
        if (!WaveformOutline.IsNear(frames, columns))
        {
            return new(WaveformOutline.Fill(open.Wave, from, frames, columns, tall), "", "");
        }

        var (line, dots) = WaveformOutline.Line(open.Wave, from, frames, columns, tall);
        return new("", line, dots);
    }

    private sealed record Drawn(string Fill, string Line, string Dots);
}
