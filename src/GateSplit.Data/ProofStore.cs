using Dapper;
using GateSplit.Core.Proofing;
using Npgsql;

namespace GateSplit.Data;

/// <summary>The proofs of takes, what of them is meant so, and the mends.</summary>
/// <param name="database">The database.</param>
public sealed class ProofStore(NpgsqlDataSource database)
{
    /// <summary>Keeps a proof in the place of the one before; nothing, if the take is gone.</summary>
    /// <param name="takeId">The take.</param>
    /// <param name="proof">What it says.</param>
    /// <param name="mends">The mends it was made with, as they are kept.</param>
    public async Task Keep(long takeId, TakeProof proof, string mends)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into proofs (take_id, body, mends, before, to_mend)
            select id, @body::jsonb, @mends::jsonb, case when @mends = '[]' then @body::jsonb end, @toMend from takes where id = @takeId
            on conflict (take_id) do update set body = excluded.body, mends = excluded.mends, before = coalesce(excluded.before, proofs.before), to_mend = excluded.to_mend, made_at = now()
            """,
            new { takeId, body = ProofJson.Write(proof), mends, toMend = ProofFindings.Of(proof).Where(f => f.ToMend).Select(f => f.Key).ToArray() });
    }

    /// <summary>The last proof of a take; null if there is none that this version of the program can read.</summary>
    public async Task<KeptProof?> Find(long takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        var row = await connection.QuerySingleOrDefaultAsync<(string Body, string? Before, string? Untried, string Mends, DateTime MadeAt)?>(
            "select body::text, before::text, untried::text, mends::text, made_at from proofs where take_id = @takeId", new { takeId });
        return row is var (body, before, untried, mends, madeAt) && ProofJson.Read(body) is { } proof
            ? new(proof, before is null ? null : ProofJson.Read(before), untried is null ? null : ProofJson.Read(untried), mends, madeAt)
            : null;
    }

    /// <summary>How the proof of a session's newest take stands.</summary>
    public async Task<ProofState> StateOf(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<ProofState>(
            """
            select p.take_id is not null as made,
                   exists (select 1 from jobs j where j.session_id = @sessionId and j.kind = 'proof' and j.state in ('queued', 'running') and (j.request->>'takeId')::bigint = t.id) as running,
                   (select count(*) from unnest(p.to_mend) key where not exists (select 1 from accepted_proofs a where a.take_id = t.id and a.finding = key)) as tomend,
                   exists (select 1 from take_mends m where m.take_id = t.id and m.trial > 0) as ontrial
            from (select id from takes where session_id = @sessionId order by number desc limit 1) t left join proofs p on p.take_id = t.id
            """,
            new { sessionId }) ?? new ProofState(false, false, 0, false);
    }

    /// <summary>What of a take is meant so: findings with their reasons.</summary>
    public async Task<IReadOnlyDictionary<string, string>> Accepted(long takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<(string Finding, string Reason)>("select finding, reason from accepted_proofs where take_id = @takeId", new { takeId })).ToDictionary(a => a.Finding, a => a.Reason);
    }

    /// <summary>Says that a finding is meant so, or no longer.</summary>
    /// <param name="takeId">The take.</param>
    /// <param name="finding">The finding's key.</param>
    /// <param name="reason">Why; null for no longer.</param>
    public async Task Accept(long takeId, string finding, string? reason)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            reason is null
                ? "delete from accepted_proofs where take_id = @takeId and finding = @finding"
                : "insert into accepted_proofs (take_id, finding, reason) select id, @finding, @reason from takes where id = @takeId on conflict (take_id, finding) do update set reason = excluded.reason",
            new { takeId, finding, reason });
    }

    /// <summary>The mends of a take.</summary>
    public async Task<MendList> Mends(long takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        var row = await connection.QuerySingleOrDefaultAsync<(string Mends, string Undone, int Trial)?>("select mends::text, undone::text, trial from take_mends where take_id = @takeId", new { takeId });
        return row is var (mends, undone, trial) ? new(ProofJson.ReadMends(mends), ProofJson.ReadMends(undone), mends, trial) : new([], [], MendList.None);
    }

    /// <summary>Puts other mends in the place of those that somebody saw.</summary>
    /// <param name="takeId">The take.</param>
    /// <param name="seen">The mends as they were kept when they were looked at.</param>
    /// <param name="mends">The mends, in order.</param>
    /// <param name="undone">What was undone, the last first.</param>
    /// <param name="trial">How many of the mends, the last ones, are on trial. What was said of the take before is kept beside until they no longer are.</param>
    /// <returns>False if somebody else has changed them since, or the take is gone.</returns>
    public async Task<bool> Set(long takeId, string seen, IReadOnlyList<Mend> mends, IReadOnlyList<Mend> undone, int trial = 0)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var values = new { takeId, seen, mends = ProofJson.Write(mends), undone = ProofJson.Write(undone), trial };
        var changed = await connection.ExecuteAsync(
            """
            insert into take_mends (take_id, mends, undone, trial) select id, @mends::jsonb, @undone::jsonb, @trial from takes where id = @takeId and @seen::jsonb = '[]'
            on conflict (take_id) do update set mends = excluded.mends, undone = excluded.undone, trial = excluded.trial where take_mends.mends = '[]'
            """,
            values,
            transaction) > 0
            || await connection.ExecuteAsync(
                "update take_mends set mends = @mends::jsonb, undone = @undone::jsonb, trial = @trial where take_id = @takeId and mends = @seen::jsonb",
                values,
                transaction) > 0;
        if (changed)
        {
            await connection.ExecuteAsync(
                "update proofs set untried = case when @trial > 0 and mends = @seen::jsonb then body end where take_id = @takeId",
                values,
                transaction);
        }

        await transaction.CommitAsync();
        return changed;
    }
}
