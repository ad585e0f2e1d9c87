using System.Data;
using Dapper;
using GateSplit.Core;

namespace GateSplit.Data;

/// <summary>Ids are plain texts in the database.</summary>
/// <typeparam name="T">The kind of id.</typeparam>
internal sealed class IdHandler<T> : SqlMapper.TypeHandler<T>
    where T : struct, IId<T>
{
    /// <inheritdoc/>
    public override T Parse(object value) => T.Of((string)value);

    /// <inheritdoc/>
    public override void SetValue(IDbDataParameter parameter, T value)
    {
        parameter.DbType = DbType.String;
        parameter.Value = value.Value;
    }
}
