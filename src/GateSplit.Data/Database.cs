using Dapper;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Opens the database.</summary>
public static class Database
{
    /// <summary>Makes a source of connections; none is opened yet.</summary>
    /// <param name="connectionString">Of the database.</param>
    public static NpgsqlDataSource Open(string connectionString)
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true; // sample_rate is SampleRate
        SqlMapper.AddTypeHandler(new IdHandler<TrackId>());
        SqlMapper.AddTypeHandler(new IdHandler<ChartId>());
        SqlMapper.AddTypeHandler(new CountHandler<Frames>());
        SqlMapper.AddTypeHandler(new CountHandler<Bytes>());
        SqlMapper.AddTypeHandler(new CountHandler<SampleRate>());
        SqlMapper.AddTypeHandler(new QuantityHandler<Decibels>());
        return NpgsqlDataSource.Create(connectionString);
    }
}
