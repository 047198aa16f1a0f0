using Keralith.Core.Judgement;
using Keralith.Core.Register;

namespace Keralith.Data;

/// <summary>
/// What entries say in their own words, held against the facts that were made with them: of facts from before entries told
/// their rows this is all there is. What was made since is compared row by row.
/// </summary>
/// <param name="whole">From where on entries tell their rows; null: they do not yet, and all is compared.</param>
internal sealed class VerifiedEntries(Database database, SealedWhole? whole)
{
    private readonly DateTimeOffset _until = whole?.At ?? DateTimeOffset.MaxValue;
    private readonly long _last = whole?.Number ?? long.MaxValue;

    /// <summary>Every fact has an entry made with it, by the same hand at the same moment, that says what it says.</summary>
    public async Task<List<Unverified>> EntriesAsync(CancellationToken cancel)
    {
        var found = new List<Unverified>();
        foreach (var (what, kind, sql) in VerifiedFacts.All)
        {
            found.AddRange(
                await database
                    .Command(
                        $"""
                        select p.mark, bool_or(l.number is not null) as told
                        from ({sql}) f (piece_id, at, by_person, says)
                        join piece p on p.id = f.piece_id
                        join person w on w.id = f.by_person
                        left join ledger l on l.subject = p.mark and l.at = f.at and l.actor = w.username
                          and ($1::text is null or l.kind = $1)
                        where f.at <= $2
                        group by p.mark, f.at, f.by_person, f.says
                        having not coalesce(bool_or(l.data::jsonb @> f.says), false)
                        order by p.mark
                        """
                    )
                    .Positional(kind, _until)
                    .ListAsync(
                        r => new Unverified(
                            r.GetString(0),
                            r.GetBoolean(1)
                                ? $"A record of it ({what}) says something else than its entry in the ledger."
                                : $"A record of it ({what}) has no entry in the ledger."
                        ),
                        cancel
                    )
                    .ConfigureAwait(false)
            );
        }

        return found;
    }

    /// <summary>What the entry of each inspection states of it is what stands in it, and none that an entry tells of is gone.</summary>
    public Task<List<Unverified>> InspectionsAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select p.mark, i.id is null as is_gone
                from ledger l
                cross join lateral (select l.data::jsonb as said offset 0) e
                left join inspection i on i.id::text = e.said->>'inspection'
                join piece p on p.mark = l.subject
                where l.kind = 'inspection.signed'
                  and (i.id is null or (
                    e.said->'case' = i.case_document::jsonb
                    and e.said->'verdict' = i.verdict_document::jsonb
                    and e.said->'own' is not distinct from i.own_document::jsonb
                    and e.said->>'signedAs' = i.verdict
                    and e.said->>'inspectedOn' = i.inspected_on::text) is not true)
                order by p.mark
                """
            )
            .ListAsync(
                r => new Unverified(
                    r.Get<string>("mark"),
                    r.Get<bool>("is_gone")
                        ? "An inspection that the ledger tells of is gone."
                        : "An inspection says something else than its entry in the ledger."
                ),
                cancel
            );

    /// <summary>What the ledger tells of and the record has no more: facts, holds and their ends, records made void, pieces.</summary>
    public async Task<List<Unverified>> GoneAsync(CancellationToken cancel)
    {
        var found = new List<Unverified>();
        foreach (var (what, kind, sql, where) in VerifiedFacts.Told)
        {
            found.AddRange(
                await database
                    .Command(
                        $"""
                        select l.subject, min(l.number)
                        from ledger l
                        where l.kind = $1 and l.number <= $2 and {where} and not exists (
                          select from ({sql}) f (piece_id, at, by_person, says)
                          join piece p on p.id = f.piece_id
                          join person w on w.id = f.by_person
                          where p.mark = l.subject and f.at = l.at and w.username = l.actor and l.data::jsonb @> f.says)
                        group by l.subject
                        order by l.subject
                        """
                    )
                    .Positional(kind, _last)
                    .ListAsync(
                        r => new Unverified(
                            r.GetString(0),
                            $"Entry {r.GetInt64(1)} of the ledger tells of a record of it ({what}) that is gone, or says something else now."
                        ),
                        cancel
                    )
                    .ConfigureAwait(false)
            );
        }

        found.AddRange(
            await database
                .Command(
                    """
                    select l.subject from ledger l
                    where l.kind = 'piece.registered' and not exists (select from piece p where p.mark = l.subject)
                    order by l.number
                    """
                )
                .ListAsync(
                    r => new Unverified(null, $"{r.GetString(0)} was registered, the ledger says, and is gone."),
                    cancel
                )
                .ConfigureAwait(false)
        );
        return found;
    }

    /// <summary>The steps of every lift against the entries that were made with them, both ways.</summary>
    public Task<List<Unverified>> LiftsAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                with step as (
                  select l.name, 'lift.' || r.kind as kind, r.at, w.username as actor, r.data as said,
                    jsonb_build_object('lift', r.lift_id, 'version', r.lift_version) as which
                  from lift_record r join lift l on l.id = r.lift_id join person w on w.id = r.by_person
                  where r.at <= $1),
                told as (
                  select subject, kind, at, actor, data::jsonb as data from ledger where kind like 'lift.%' and number <= $2)
                select s.name, s.kind from step s
                where not exists (
                  select from told t
                  where t.kind = s.kind and t.at = s.at and t.actor = s.actor and t.data @> s.which and t.data->'said' = s.said)
                union
                select t.subject, t.kind from told t
                where t.data ? 'said' and not exists (
                  select from step s
                  where t.kind = s.kind and t.at = s.at and t.actor = s.actor and t.data @> s.which and t.data->'said' = s.said)
                order by 1, 2
                """
            )
            .Positional(_until, _last)
            .ListAsync(
                r => new Unverified(
                    null,
                    $"The lift {r.GetString(0)} and the ledger do not say the same of one step ({r.GetString(1)})."
                ),
                cancel
            );

    /// <summary>
    /// What a piece is kept as against the last entry that stated it: each such entry carries everything that was
    /// entered, under the names of the form. Compared by Core; a piece that can't be compared is named, and the others
    /// are gone on with.
    /// </summary>
    public async Task<List<Unverified>> StatedAsync(CancellationToken cancel)
    {
        var found = new List<Unverified>();
        await using var command = database
            .Command(
                $"""
                select {PieceRows.Columns}, l.said
                from piece p
                join store s on s.id = p.store_id
                left join (
                  select distinct on (subject) subject, number,
                    case kind when 'piece.facts-changed' then (data::jsonb->'fields')::text else data end as said
                  from ledger
                  where kind in ('piece.registered', 'piece.changed', 'piece.facts-changed')
                  order by subject, number desc) l on l.subject = p.mark
                where coalesce(l.number <= $1, p.registered_at <= $2)
                order by p.mark
                """
            )
            .Positional(_last, _until);
        await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        while (await reader.ReadAsync(cancel).ConfigureAwait(false))
        {
            var piece = PieceRows.From(reader);
            if (Otherwise(piece, reader.TextOrNull("said")) is { } why)
                found.Add(new(piece.Mark, why));
        }

        return found;
    }

    private static string? Otherwise(Piece piece, string? said)
    {
        if (said is null)
            return "The ledger does not say what was entered of it.";
        if (piece.Unreadable is { } unreadable)
            return $"Its records can't be read: {unreadable}";
        try
        {
            var differing = Stated.Differences(Stated.Read(said), piece.Entry(NoFigures));
            return differing.Count == 0
                ? null
                : $"It is kept as something else than was entered of it: {string.Join(", ", differing)}.";
        }
        catch (Exception e) when (PieceRows.IsUnreadable(e))
        {
            return $"Its records can't be read: {e.Message}";
        }
    }

    private static readonly Dictionary<BaselineKey, BaselineFigure> NoFigures = [];

    /// <summary>
    /// Figures when new against the entries that brought them: everything entered of the piece, a figure filled in
    /// later, or a replaced part's.
    /// </summary>
    public Task<List<Unverified>> FiguresAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                with said as (
                  select subject, at, actor, case kind when 'piece.facts-changed' then data::jsonb->'fields' else data::jsonb end as fields
                  from ledger
                  where kind in ('piece.registered', 'piece.changed', 'piece.facts-changed', 'baseline.set', 'part.replaced'))
                select distinct p.mark
                from baseline b
                join piece p on p.id = b.piece_id
                join person w on w.id = b.set_by
                join said l on l.subject = p.mark and l.at = b.set_at and l.actor = w.username
                where b.set_at <= $1
                group by p.mark, b.id
                having not bool_or(
                  case when l.fields ? 'figures' then exists (
                    select from jsonb_array_elements(l.fields->'figures') f
                    where f->>'part' = b.part and f->>'criterion' = b.criterion and f->>'value' = b.value
                      and coalesce(f->>'basis', b.basis) = b.basis)
                  else l.fields->>('baseline:' || b.part || ':' || b.criterion) is not distinct from b.value
                    and l.fields->>('basis:' || b.part || ':' || b.criterion) is not distinct from b.basis
                    and l.fields->>('links:' || b.part || ':' || b.criterion) is not distinct from b.links::text
                  end)
                order by 1
                """
            )
            .Positional(_until)
            .ListAsync(
                r => new Unverified(
                    r.GetString(0),
                    "A figure when new says something else than its entry in the ledger."
                ),
                cancel
            );

    /// <summary>
    /// Holds and their ends against the entries that were made with them: a cause made milder would be closed by less.
    /// </summary>
    public Task<List<Unverified>> HoldsAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select p.mark, 'A hold says something else than its entry in the ledger.' as why
                from hold h
                join piece p on p.id = h.piece_id
                join person w on w.id = h.placed_by
                join ledger l on l.subject = p.mark and l.at = h.placed_at and l.actor = w.username
                  and l.kind in ('piece.held', 'inspection.signed', 'piece.facts-changed', 'piece.held-by-rules',
                    'gear.event', 'part.replaced', 'piece.returned', 'piece.found', 'piece.came-back', 'piece.proof-tested',
                    'piece.recalled', 'piece.record-put-right', 'draft.discarded')
                where h.placed_at <= $1
                group by p.mark, h.id
                having not bool_or(case l.kind
                  when 'piece.held' then l.data::jsonb->>'cause' = h.cause and l.data::jsonb->>'reason' = h.reason
                  when 'inspection.signed' then h.cause = 'verdict-' || (l.data::jsonb->>'signedAs')
                    or (h.cause = 'marking' and not exists (
                      select from jsonb_array_elements(l.data::jsonb->'verdict'->'findings') f
                      where f->>'outcome' in ('hold', 'remove') and f->>'criterion' <> 'id.marking'))
                  when 'piece.facts-changed' then h.cause = 'facts-changed' and l.data::jsonb->>'held' = h.reason
                  when 'piece.held-by-rules' then h.cause = 'rules-changed' and starts_with(h.reason, l.data::jsonb->>'reason')
                    and position(l.data::jsonb->>'because' in h.reason) > 0
                  when 'gear.event' then h.cause = 'event' and position(l.data::jsonb->>'what' in h.reason) > 0
                  when 'part.replaced' then h.cause = 'event' and position(l.data::jsonb->>'what' in h.reason) > 0
                  when 'piece.returned' then h.cause = 'doubt' and position(l.data::jsonb->>'doubt' in h.reason) > 0
                  when 'piece.came-back' then h.cause = 'returned' and position(l.data::jsonb->>'note' in h.reason) > 0
                  when 'piece.proof-tested' then h.cause = 'verdict-remove' and position(l.data::jsonb->>'load' in h.reason) > 0
                  when 'piece.recalled' then h.cause = 'recall' and l.data::jsonb->>'recall' = h.recall_id::text
                    and h.reason = 'Recall: ' || (l.data::jsonb->>'reason')
                  when 'piece.record-put-right' then position(l.data::jsonb->>'why' in h.reason) > 0 and case l.data::jsonb->>'record'
                    when 'tag' then h.cause = 'marking'
                    when 'proof-test' then h.cause = 'facts-changed'
                    else h.cause in ('facts-changed', (select o.cause from hold o where o.id = (l.data::jsonb->>'wrong')::uuid)) end
                  when 'draft.discarded' then h.cause = 'doubt'
                  when 'piece.found' then h.cause = 'doubt' and position(l.data::jsonb->>'where' in h.reason) > 0
                  end)
                union
                select p.mark, 'The end of a hold says something else than its entry in the ledger.'
                from release f
                join hold h on h.id = f.hold_id
                join piece p on p.id = h.piece_id
                join person w on w.id = f.released_by
                join ledger l on l.subject = p.mark and l.at = f.released_at and l.actor = w.username
                  and l.kind in ('hold.released', 'piece.let-go-by-rules')
                where f.released_at <= $1
                group by p.mark, f.hold_id
                having not bool_or(l.data::jsonb->>'hold' = f.hold_id::text and l.data::jsonb->>'reason' = f.reason)
                order by 1, 2
                """
            )
            .Positional(_until)
            .ListAsync(r => new Unverified(r.GetString(0), r.GetString(1)), cancel);

    /// <summary>
    /// Who may what against the entries that say so: the roles of everybody whose roles an entry states, and every
    /// authorisation but those from before entries were kept of them.
    /// </summary>
    public Task<List<Unverified>> RightsAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select p.username, 'roles' as what
                from person p
                join lateral (
                  select case l.kind when 'works.set-up' then '["admin"]'::jsonb else l.data::jsonb->'roles' end as roles
                  from ledger l
                  where (l.kind in ('person.invited', 'person.changed') and l.subject = p.username)
                    or (l.kind = 'works.set-up' and l.data::jsonb->>'administrator' = p.username)
                  order by l.number desc limit 1) s on true
                where to_jsonb(p.roles) <> s.roles
                union
                select p.username, 'authorisation'
                from authorisation a
                join person p on p.id = a.person_id
                join person w on w.id = a.set_by
                where not (a.set_by = a.person_id and a.set_at <=
                    (select max(applied) from schemaversions where scriptname like '%0006_signing.sql') + interval '1 minute')
                  and not exists (
                    select from ledger l
                    where l.kind = 'person.authorised' and l.subject = p.username and l.at = a.set_at and l.actor = w.username
                      and l.data::jsonb @> jsonb_build_object('group', a.family_group, 'until', a.until::text))
                order by 1, 2
                """
            )
            .ListAsync(
                r => new Unverified(
                    null,
                    $"The {r.GetString(1)} of {r.GetString(0)} say something else than the ledger."
                ),
                cancel
            );
}
