using System.Data;
using Dapper;
using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>Counts are whole numbers in the database.</summary>
/// <typeparam name="T">The kind of count.</typeparam>
internal sealed class CountHandler<T> : SqlMapper.TypeHandler<T>
    where T : struct, ICount<T>
{
    /// <inheritdoc/>
    public override T Parse(object value) => T.Of(Convert.ToInt64(value));

    /// <inheritdoc/>
    public override void SetValue(IDbDataParameter parameter, T value)
    {
        parameter.DbType = DbType.Int64;
        parameter.Value = value.Count;
    }
}
