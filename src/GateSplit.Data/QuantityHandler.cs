using System.Data;
using Dapper;
using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>Quantities are plain numbers in the database.</summary>
/// <typeparam name="T">The kind of quantity.</typeparam>
internal sealed class QuantityHandler<T> : SqlMapper.TypeHandler<T>
    where T : struct, IQuantity<T>
{
    /// <inheritdoc/>
    public override T Parse(object value) => T.Of(Convert.ToDouble(value));

    /// <inheritdoc/>
    public override void SetValue(IDbDataParameter parameter, T value)
    {
        parameter.DbType = DbType.Double;
        parameter.Value = value.Value;
    }
}
