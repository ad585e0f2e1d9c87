using System.Text;
using Dapper;
using GateSplit.Core;
using GateSplit.Core.Templates;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Templates and their versions.</summary>
/// <param name="database">The database.</param>
public sealed class TemplateStore(NpgsqlDataSource database)
{
    /// <summary>The most templates there are, those that can be taken back among them.</summary>
    public const int Most = 1000;

    /// <summary>The most versions of one; the oldest go first, and the first stays.</summary>
    public const int MostVersions = 50;

    private const string Newest = "join lateral (select * from template_versions n where n.template_id = t.id order by n.number desc limit 1) v on true";

    /// <summary>Those that are not deleted, by name.</summary>
    /// <param name="search">Words in the name or in what they keep; empty for all.</param>
    /// <param name="from">Rows to pass over.</param>
    /// <param name="most">No more than so many.</param>
    public async Task<IReadOnlyList<TemplateHead>> List(string search = "", int from = 0, int most = Most)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<TemplateHead>(
            $"""
            select t.id, t.name, v.number as version, v.kind, v.gist, v.made_at, (select count(*) from template_versions c where c.template_id = t.id) as versions
            from templates t {Newest}
            where t.deleted_at is null and (@search = '' or position(lower(@search) in lower(t.name || ' ' || v.gist)) > 0)
            order by lower(t.name), t.id offset @from limit @most
            """,
            new { search = search.Trim(), from, most })).AsList();
    }

    /// <summary>The versions of one, the newest first.</summary>
    public async Task<IReadOnlyList<TemplateHead>> Versions(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<TemplateHead>(
            """
            select t.id, t.name, v.number as version, v.kind, v.gist, v.made_at, 0::bigint as versions
            from templates t join template_versions v on v.template_id = t.id
            where t.id = @id and t.deleted_at is null order by v.number desc
            """,
            new { id })).AsList();
    }

    /// <summary>A version of one as it was kept; null if there is none.</summary>
    /// <param name="id">The template.</param>
    /// <param name="version">Its version; null for the newest.</param>
    /// <returns>The template, or why it cannot be read.</returns>
    public async Task<Result<Template>?> Find(long id, int? version = null)
    {
        await using var connection = await database.OpenConnectionAsync();
        var row = await connection.QuerySingleOrDefaultAsync<(string Name, string Document)?>(
            """
            select t.name, v.document from templates t join template_versions v on v.template_id = t.id
            where t.id = @id and t.deleted_at is null and (@version::integer is null or v.number = @version) order by v.number desc limit 1
            """,
            new { id, version });
        if (row is not { } found)
        {
            return null;
        }

        var read = TemplateFile.Read(Encoding.UTF8.GetBytes(found.Document));
        return read.Ok ? read.Value with { Name = found.Name } : read;
    }

    /// <summary>Keeps a template: as a new version of the one that bears its name, or as a new one.</summary>
    /// <returns>Its number; or why not.</returns>
    public async Task<Result<KeptTemplate>> Keep(Template template)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("lock table templates in share row exclusive mode", transaction: transaction); // two windows that keep the same name
        var id = await connection.ExecuteScalarAsync<long?>(
            "select id from templates where lower(name) = lower(@Name) and deleted_at is null order by id limit 1", new { template.Name }, transaction);
        if (id is null)
        {
            if (await connection.ExecuteScalarAsync<long>("select count(*) from templates", transaction: transaction) >= Most)
            {
                return new Refusal($"There are {Most} templates already. Delete some for good first.");
            }

            id = await connection.ExecuteScalarAsync<long>("insert into templates (name) values (@Name) returning id", new { template.Name }, transaction);
        }

        var number = await connection.ExecuteScalarAsync<int>(
            """
            insert into template_versions (template_id, number, kind, gist, document)
            select @id, coalesce(max(number), 0) + 1, @kind, @Gist, @document from template_versions where template_id = @id
            returning number
            """,
            new { id, kind = $"{template.Kind}".ToLowerInvariant(), template.Gist, document = Encoding.UTF8.GetString(TemplateFile.Write(template)) },
            transaction);
        await connection.ExecuteAsync(
            """
            delete from template_versions where template_id = @id and number in
                (select number from template_versions where template_id = @id and number > 1 order by number desc offset @kept)
            """,
            new { id, kept = MostVersions - 1 },
            transaction);
        await transaction.CommitAsync();
        return new KeptTemplate(id.Value, number);
    }

    /// <summary>Gives one another name.</summary>
    /// <returns>Why not; null if it has it now.</returns>
    public async Task<string?> Rename(long id, string name)
    {
        if (!Names.Fit(name, Template.LongestName))
        {
            return $"A template needs a name of 1 to {Template.LongestName} letters.";
        }

        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync(
            """
            update templates set name = @name where id = @id and deleted_at is null
              and not exists (select 1 from templates o where lower(o.name) = lower(@name) and o.deleted_at is null and o.id <> @id)
            """,
            new { id, name }) > 0 ? null : $"There is a template {name} already, or this one is gone.";
    }

    /// <summary>Deletes one, so that it can be taken back.</summary>
    public Task Delete(long id) => Mark("update templates set deleted_at = now() where id = @id and deleted_at is null", id);

    /// <summary>Takes a deleted one back.</summary>
    public Task Restore(long id) => Mark("update templates set deleted_at = null where id = @id", id);

    /// <summary>Throws all deleted ones away for good.</summary>
    public Task Empty() => Mark("delete from templates where deleted_at is not null", 0);

    /// <summary>Those that can be taken back, the one deleted last first.</summary>
    public async Task<IReadOnlyList<TemplateHead>> Deleted()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<TemplateHead>(
            $"""
            select t.id, t.name, v.number as version, v.kind, v.gist, v.made_at, 1::bigint as versions
            from templates t {Newest} where t.deleted_at is not null order by t.deleted_at desc limit 20
            """)).AsList();
    }

    private async Task Mark(string sql, long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(sql, new { id });
    }
}
