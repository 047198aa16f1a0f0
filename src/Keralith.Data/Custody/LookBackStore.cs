using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Ledger;

namespace Keralith.Data;

/// <summary>A piece that is out for good.</summary>
/// <param name="Why">Why it was condemned.</param>
/// <param name="Method">How it was destroyed; null: not yet.</param>
public sealed record RetiredRow(
    string Mark,
    GearFamily Family,
    string? Maker,
    string? Serial,
    string Why,
    DateTimeOffset CondemnedAt,
    string By,
    DateTimeOffset? DestroyedAt,
    string? Method,
    string? Witness,
    DateOnly? InServiceSince
)
{
    /// <summary>Its newest picture, of a hold or an inspection; null: there is none.</summary>
    public Guid? Picture { get; init; }
}

/// <summary>Looking back from a piece that failed, and at what left for good.</summary>
public sealed class LookBackStore(Database database)
{
    /// <summary>Everything on record that happened to a piece: its id, its mark.</summary>
    private static readonly string Everything = $$"""
        select 'out' as kind, i.at as begun, g.at as ended, g.at is null as open,
          'out with ' || i.holder || coalesce(': ' || nullif(g.doubt, ''), '') as what, i.holder as who, i.job as place,
          array(
            select o.mark
            from (
              select j.piece_id from issue j where j.lift_id = i.lift_id
              union all
              select j.piece_id
              from issue j left join give_back h on h.issue_id = j.id
              where i.lift_id is null
                and {{Fragments.Key("j.holder")}} = {{Fragments.Key("i.holder")}}
                and {{Fragments.Key("j.job")}} = {{Fragments.Key("i.job")}}
                and j.at <= coalesce(g.at, 'infinity') and coalesce(h.at, 'infinity') >= i.at) j
            join piece o on o.id = j.piece_id
            where o.id <> $1
            order by o.mark) as beside
        from issue i left join give_back g on g.issue_id = i.id
        where i.piece_id = $1
        union all
        select 'lifted', r.at, null, false, 'lift ' || r.kind, w.name, coalesce(nullif(l.job, ''), l.name),
          array(select m from unnest(l.marks) m where m <> $2 order by m)
        from lift l join lift_record r on r.lift_id = l.id join person w on w.id = r.by_person
        where l.marks @> array[$2] and not l.is_template and r.kind in ('trial', 'ended')
        union all
        select 'inspected', i.signed_at, null, false, i.kind || ' inspection, ' || i.verdict, w.name, '', '{}'
        from inspection i join person w on w.id = i.signed_by
        where i.piece_id = $1 and not exists (select from supersession s where s.inspection_id = i.id)
        union all
        select 'event', e.at, null, false, e.kind || ' on ' || to_char(e.happened, 'YYYY-MM-DD') || ': ' || e.what, w.name, '',
          array(select o.mark from gear_event_piece x join piece o on o.id = x.piece_id
            where x.event_id = e.id and x.piece_id <> $1 order by o.mark)
        from gear_event e join gear_event_piece p on p.event_id = e.id join person w on w.id = e.by_person
        where p.piece_id = $1
        union all
        select 'held', h.placed_at, f.released_at, f.released_at is null, 'on hold: ' || h.reason, w.name, '', '{}'
        from hold h join person w on w.id = h.placed_by left join release f on f.hold_id = h.id
        where h.piece_id = $1
        union all
        select 'moved', m.at, null, false,
          case m.kind when 'moved' then 'moved to ' || m.to_place when 'lost' then 'missing: ' || m.reason else 'found: ' || m.reason end,
          w.name, m.to_place, '{}'
        from move m join person w on w.id = m.by_person
        where m.piece_id = $1
        union all
        select 'away', a.at, r.at, r.at is null, 'away at ' || a.sent_to || ': ' || a.what, w.name, a.sent_to, '{}'
        from away a join person w on w.id = a.by_person left join away_return r on r.away_id = a.id
        where a.piece_id = $1
        """;

    /// <summary>Everything since a piece was last known to be good.</summary>
    /// <param name="failed">When it failed, or was found.</param>
    public async Task<LookBack> OfAsync(Guid piece, string mark, DateTimeOffset failed, CancellationToken cancel)
    {
        var items = await database
            .Command(Everything)
            .Positional(piece, mark)
            .ListAsync(
                r => new LookBackItem(
                    Code.Parse<LookBackKind>(r.Get<string>("kind")),
                    r.Get<DateTimeOffset>("begun"),
                    r.ValueOrNull<DateTimeOffset>("ended"),
                    r.Get<string>("what"),
                    r.Get<string>("who"),
                    r.Get<string>("place"),
                    r.Get<string[]>("beside")
                )
                {
                    IsOpen = r.Get<bool>("open"),
                },
                cancel
            );
        var fit = await database
            .Command(
                $"""
                select max(i.signed_at) as fit from standing_inspection i
                where i.piece_id = $1 and i.kind in {Fragments.Full} and i.verdict = 'fit' and i.signed_at <= $2
                """
            )
            .Positional(piece, failed)
            .ListAsync(r => r.ValueOrNull<DateTimeOffset>("fit"), cancel);
        return LookBack.Of(fit[0], items, failed);
    }

    /// <summary>What witnesses said of a piece, the last first.</summary>
    public Task<List<WitnessWords>> WitnessesAsync(Guid piece, CancellationToken cancel) =>
        database
            .Command(
                """
                select t.who, t.said_on, t.words, t.at, w.name
                from witness t join person w on w.id = t.by_person
                where t.piece_id = $1
                order by t.at desc
                """
            )
            .Positional(piece)
            .ListAsync(
                r => new WitnessWords(
                    r.GetString(0),
                    r.GetFieldValue<DateOnly>(1),
                    r.GetString(2),
                    r.GetFieldValue<DateTimeOffset>(3),
                    r.GetString(4)
                ),
                cancel
            );

    /// <summary>Takes down a witness's words.</summary>
    public Task<Checked<Recorded>> TakeAsync(
        Guid piece,
        string? who,
        DateOnly? on,
        string? words,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var outcome = Witness.Take(row.State, who, on, words, session.By);
                    if (!outcome.Ok)
                        return outcome;
                    var said = (WitnessTaken)outcome.Value.Record!;
                    await session
                        .WriteAsync(
                            "insert into witness (id, piece_id, who, said_on, words, at, by_person) values ($1, $2, $3, $4, $5, $6, $7)",
                            stamp.Submission,
                            row.Id,
                            said.Who,
                            said.On,
                            said.Words,
                            session.Stamp.At,
                            stamp.Actor.Id
                        )
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>What left for good, the last first.</summary>
    /// <param name="text">Any part of mark, serial, maker, family or reason; null: all.</param>
    public Task<List<RetiredRow>> RetiredAsync(string? text, int most, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select p.mark, p.family, p.maker, p.serial, c.reason, c.at, w.name as by_name, d.at as destroyed_at, d.method,
                  s.name as witness, p.in_service_since,
                  coalesce(
                    (select f.attachment_id from hold_photo f join hold h on h.id = f.hold_id
                     where h.piece_id = p.id order by h.placed_at desc limit 1),
                    (select f.attachment_id from inspection_photo f join inspection i on i.id = f.inspection_id
                     where i.piece_id = p.id order by i.signed_at desc limit 1)) as picture
                from piece p
                join disposal c on c.piece_id = p.id and c.step = 'condemned'
                join person w on w.id = c.by_person
                left join standing_disposal d on d.piece_id = p.id and d.step = 'destroyed'
                left join person s on s.id = d.witness
                where p.state in {Fragments.Retired}
                  and ($1::text is null or position(lower($1) in lower(concat_ws(' ', p.mark, p.serial, p.maker, p.model, p.family, c.reason))) > 0)
                order by c.at desc, p.mark
                limit $2
                """
            )
            .Positional(text, most)
            .ListAsync(
                r => new RetiredRow(
                    r.Get<string>("mark"),
                    GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family")),
                    r.TextOrNull("maker"),
                    r.TextOrNull("serial"),
                    r.Get<string>("reason"),
                    r.Get<DateTimeOffset>("at"),
                    r.Get<string>("by_name"),
                    r.ValueOrNull<DateTimeOffset>("destroyed_at"),
                    r.TextOrNull("method"),
                    r.TextOrNull("witness"),
                    r.ValueOrNull<DateOnly>("in_service_since")
                )
                {
                    Picture = r.ValueOrNull<Guid>("picture"),
                },
                cancel
            );
}
