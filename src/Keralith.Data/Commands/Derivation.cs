using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>
/// What is kept on a piece from its records: Core's answers, made in one place for one piece or for many, behind the
/// pieces' locks.
/// </summary>
internal static class Derivation
{
    /// <summary>
    /// The signed inspections of a piece that count, oldest first; a correction stands where the record it corrects
    /// stood.
    /// </summary>
    public static Asked<List<SignedInspection>> Inspections(Trip trip, Guid piece) =>
        trip.Ask(InspectionsOf(new([piece])), r => InspectionFrom(r), rows => rows.ConvertAll(r => r.Inspection));

    /// <summary>Keeps Core's answers on a locked piece, and its new state.</summary>
    public static Task DeriveAsync(this Session session, Piece piece, PieceState state) =>
        WriteAsync(
            session,
            [new(piece.Id, piece.Gear.Family, piece.ServiceClass, session.Site.Id, state)],
            session.Sites
        );

    /// <summary>The same for many locked pieces, each with its new state.</summary>
    public static async Task DeriveManyAsync(this Session session, IEnumerable<(Piece Piece, PieceState State)> pieces)
    {
        foreach (var chunk in pieces.Chunk(MostAtOnce))
            await WriteAsync(
                    session,
                    [
                        .. chunk.Select(p => new ToDerive(
                            p.Piece.Id,
                            p.Piece.Gear.Family,
                            p.Piece.ServiceClass,
                            p.Piece.SiteId,
                            p.State
                        )),
                    ],
                    session.Sites
                )
                .ConfigureAwait(false);
    }

    /// <summary>The same for locked pieces whose holds were closed: those that are held by nothing more leave the cage.</summary>
    public static async Task DeriveAfterReleaseAsync(this Session session, IReadOnlyCollection<Piece> pieces)
    {
        var left = (
            await session
                .ReadAsync(
                    """
                    select p.id,
                      (select count(*)::int from hold h
                       where h.piece_id = p.id and not exists (select from release f where f.hold_id = h.id)) as holds,
                      exists (select from carried_accepted a where a.piece_id = p.id) or exists (
                        select from standing_inspection i
                        where i.piece_id = p.id and i.kind = any($2) and i.verdict = any($3)) as accepted
                    from piece p
                    where p.id = any($1)
                    """,
                    r => (Id: r.Get<Guid>("id"), Holds: r.Get<int>("holds"), Accepted: r.Get<bool>("accepted")),
                    pieces.Select(p => p.Id).ToArray(),
                    Enum.GetValues<InspectionKind>().Where(k => k.IsFull()).Select(Code.Of).ToArray(),
                    Enum.GetValues<VerdictKind>().Where(v => v.IsClean()).Select(Code.Of).ToArray()
                )
                .ConfigureAwait(false)
        ).ToDictionary(p => p.Id);
        await session
            .DeriveManyAsync(
                pieces.Select(p =>
                    (
                        p,
                        PieceLife.AfterRelease(p.State, left[p.Id].Holds, left[p.Id].Accepted) is { Ok: true } after
                            ? after.Value
                            : p.State
                    )
                )
            )
            .ConfigureAwait(false);
    }

    /// <summary>
    /// The same where a piece is stopped, which always works: what its other records say can wait, if they can't be
    /// read.
    /// </summary>
    public static async Task StopAsync(this Session session, Piece piece, PieceState state)
    {
        try
        {
            if (piece.Unreadable is null)
            {
                await session.DeriveAsync(piece, state).ConfigureAwait(false);
                return;
            }
        }
        catch (Exception e) when (PieceRows.IsUnreadable(e))
        {
            // Below, by what can be read.
        }

        await session
            .WriteAsync(
                $"update piece set state = $2, open_holds = (select count(*) {Holding.Open}), version = version + 1 where id = $1",
                piece.Id,
                Code.Of(state)
            )
            .ConfigureAwait(false);
    }

    /// <summary>
    /// Keeps Core's answers on every piece that is not retired, under other rules than before. Their states stay.
    /// </summary>
    /// <param name="sites">The sites as they are from now on.</param>
    public static async Task DeriveAllAsync(this Session session, SiteSet sites)
    {
        // Locked in one order by all, and read then.
        await session
            .ReadAsync($"select 1 from piece where state not in {Fragments.Retired} order by id for update", r =>
                r.GetInt32(0)
            )
            .ConfigureAwait(false);
        await DeriveSomeAsync(session, sites, $"p.state not in {Fragments.Retired}").ConfigureAwait(false);
    }

    /// <summary>Keeps Core's answers on pieces that were registered in this transaction.</summary>
    public static Task DeriveNewAsync(this Session session, Guid[] pieces) =>
        DeriveSomeAsync(session, session.Sites, "p.id = any($1)", pieces);

    /// <summary>
    /// Keeps Core's answers on every piece of a works made anew, its state with them, from its records alone.
    /// </summary>
    public static async Task DeriveAnewAsync(this Session session)
    {
        await session.WriteAsync($"update piece p set locked = {Locked}").ConfigureAwait(false);
        var pieces = await session
            .ReadAsync(
                $"""
                select p.id, p.family, p.service_class, s.site_id, {StateFacts},
                  exists (select from carried_accepted a where a.piece_id = p.id) or exists (
                    select from standing_inspection i
                    where i.piece_id = p.id and i.kind = any($1) and i.verdict = any($2)) as accepted
                from piece p join store s on s.id = p.store_id
                """,
                r => new ToDerive(
                    r.Get<Guid>("id"),
                    GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family")),
                    Code.Parse<ServiceClass>(r.Get<string>("service_class")),
                    r.Get<int>("site_id"),
                    StateFrom(r, r.Get<bool>("accepted"))
                ),
                Enum.GetValues<InspectionKind>().Where(k => k.IsFull()).Select(Code.Of).ToArray(),
                Enum.GetValues<VerdictKind>().Where(v => v.IsClean()).Select(Code.Of).ToArray()
            )
            .ConfigureAwait(false);
        foreach (var chunk in pieces.Chunk(MostAtOnce))
            await WriteAsync(session, chunk, session.Sites).ConfigureAwait(false);
    }

    /// <summary>What the state of a piece <c>p</c> follows from beside its inspections.</summary>
    internal const string StateFacts = """
        exists (select from disposal d where d.piece_id = p.id and d.step = 'condemned') as condemned,
        exists (select from standing_disposal d where d.piece_id = p.id and d.step = 'destroyed') as destroyed,
        coalesce((
          select m.kind = 'lost' from move m
          where m.piece_id = p.id and m.kind <> 'moved'
          order by m.at desc limit 1), false) as missing,
        (select a.sent_for from away a where a.piece_id = p.id
          and not exists (select from away_return r where r.away_id = a.id)) as away,
        (select count(*)::int from hold h where h.piece_id = p.id
          and not exists (select from release r where r.hold_id = h.id)) as holds
        """;

    /// <summary>Why a piece <c>p</c> is kept as evidence; null: it is not.</summary>
    internal const string Locked = """
        (select e.reason from evidence e where e.piece_id = p.id and e.locked
          and not exists (select from evidence l where l.piece_id = p.id and l.at > e.at)
          order by e.at desc limit 1)
        """;

    /// <summary>The state that a row with <see cref="StateFacts"/> comes to.</summary>
    /// <param name="isAccepted">Whether a clean full inspection or an accepted report stands.</param>
    internal static PieceState StateFrom(NpgsqlDataReader r, bool isAccepted) =>
        PieceLife.Of(
            r.Get<bool>("condemned"),
            r.Get<bool>("destroyed"),
            r.Get<bool>("missing"),
            Code.Find<AwayFor>(r.TextOrNull("away")),
            r.Get<int>("holds"),
            isAccepted
        );

    private static async Task DeriveSomeAsync(Session session, SiteSet sites, string which, params object[] values)
    {
        var pieces = await session
            .ReadAsync(
                $"""
                select p.id, p.family, p.service_class, s.site_id
                from piece p join store s on s.id = p.store_id
                where {which}
                """,
                r => new ToDerive(
                    r.Get<Guid>("id"),
                    GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family")),
                    Code.Parse<ServiceClass>(r.Get<string>("service_class")),
                    r.Get<int>("site_id"),
                    null
                ),
                values
            )
            .ConfigureAwait(false);
        foreach (var chunk in pieces.Chunk(MostAtOnce))
            await WriteAsync(session, chunk, sites).ConfigureAwait(false);
    }

    private const int MostAtOnce = 5000;

    /// <param name="State">Its new state; null: it stays.</param>
    private sealed record ToDerive(Guid Id, GearFamily Family, ServiceClass Service, int Site, PieceState? State);

    /// <summary>Core's answers for pieces, from what is on record of them.</summary>
    private static async Task<List<(Guid Id, PieceState? State, Derived Kept)>> AnswersAsync(
        Session session,
        IReadOnlyCollection<ToDerive> pieces,
        SiteSet sites
    )
    {
        var named = new Named([.. pieces.Select(p => p.Id)]);
        var trip = new Trip();
        var inspections = trip.Ask(
            InspectionsOf(named),
            r => InspectionFrom(r),
            rows => rows.ToLookup(r => r.Piece, r => r.Inspection)
        );
        var kept = trip.Ask(
            new NpgsqlBatchCommand(
                $"""
                select p.id, (p.registered_at at time zone h.time_zone)::date as registered, p.maker, p.model, p.details->>'proofTestDue' as proof_entered, t.tested_on as proven, t.renews,
                  (select c.last_periodic from carried_over c join carried_accepted a using (piece_id) where c.piece_id = p.id) as report,
                  (select max(i.at at time zone h.time_zone)::date from issue i where i.piece_id = p.id) as last_out
                from piece p join store s on s.id = p.store_id join site h on h.id = s.site_id
                {LastProof}
                where p.id {named.Is}
                """
            ).Positional(named.Value),
            r =>
                (
                    Id: r.Get<Guid>("id"),
                    Registered: r.ValueOrNull<DateOnly>("registered"),
                    Report: r.ValueOrNull<DateOnly>("report"),
                    LastOut: r.ValueOrNull<DateOnly>("last_out"),
                    Maker: r.TextOrNull("maker"),
                    Model: r.TextOrNull("model"),
                    Proof: ProofFrom(r)
                ),
            rows => rows.ToDictionary(r => r.Id)
        );
        await session.AskAsync(trip).ConfigureAwait(false);
        return pieces
            .Select(p =>
            {
                var row = kept.Value[p.Id];
                var site = sites.Of(p.Site);
                var facts = new DerivedFacts(
                    p.Family,
                    p.Service,
                    [.. inspections.Value[p.Id]],
                    row.Report,
                    row.LastOut,
                    row.Registered
                )
                {
                    Proof = row.Proof with { Months = site.ProofMonthsOf(p.Family, row.Maker, row.Model) },
                };
                return (p.Id, p.State, Kept: Derived.Of(facts, site.Books));
            })
            .ToList();
    }

    private static async Task WriteAsync(Session session, IReadOnlyCollection<ToDerive> pieces, SiteSet sites)
    {
        var derived = await AnswersAsync(session, pieces, sites).ConfigureAwait(false);

        // Without an act of its own a piece gets another version only where another answer stands.
        await session
            .WriteAsync(
                """
                update piece p
                set state = coalesce(d.state, p.state), verdict = d.verdict, periodic_due = d.periodic, frequent_due = d.frequent,
                  carried = d.carried, last_by = d.last_by, touched = d.touched,
                  proof_due = d.proof, proof_lacks = d.lacks, version = p.version + 1,
                  open_holds = (
                    select count(*)
                    from hold h
                    left join release r on r.hold_id = h.id
                    where h.piece_id = p.id and r.hold_id is null)
                from unnest($1::uuid[], $2::text[], $3::text[], $4::date[], $5::date[], $6::boolean[], $7::uuid[], $8::date[], $9::date[], $10::boolean[])
                  as d (id, state, verdict, periodic, frequent, carried, last_by, touched, proof, lacks)
                where p.id = d.id
                  and (d.state is not null
                    or (p.verdict, p.periodic_due, p.frequent_due, p.carried, p.last_by, p.touched, p.proof_due, p.proof_lacks)
                      is distinct from (d.verdict, d.periodic, d.frequent, d.carried, d.last_by, d.touched, d.proof, d.lacks))
                """,
                derived.Select(d => d.Id).ToArray(),
                derived.Select(d => d.State is { } state ? Code.Of(state) : null).ToArray(),
                derived.Select(d => d.Kept.Verdict is { } verdict ? Code.Of(verdict) : null).ToArray(),
                derived.Select(d => d.Kept.Due.Periodic).ToArray(),
                derived.Select(d => d.Kept.Due.Frequent).ToArray(),
                derived.Select(d => d.Kept.IsCarried).ToArray(),
                derived.Select(d => d.Kept.LastBy).ToArray(),
                derived.Select(d => d.Kept.Touched).ToArray(),
                derived.Select(d => d.Kept.Proof.Until).ToArray(),
                derived.Select(d => d.Kept.Proof.Lacks).ToArray()
            )
            .ConfigureAwait(false);
    }

    /// <summary>Of a piece <c>p</c> the last proof test of itself that passed and counts, as <c>t</c>.</summary>
    internal const string LastProof = """
        left join lateral (
          select o.tested_on, o.renews
          from proof_test o
          where o.piece_id = p.id and o.passed and o.subject = 'leg'
            and not exists (select from put_right w where w.record_id = o.id)
          order by o.tested_on desc, o.seq desc limit 1) t on true
        """;

    /// <summary>What a row with <see cref="LastProof"/> knows of a proof test; what is asked is not said there.</summary>
    internal static ProofFacts ProofFrom(NpgsqlDataReader r) =>
        new(
            DayReader.Read(r.TextOrNull("proof_entered")) is { Ok: true } entered ? entered.Value : null,
            r.ValueOrNull<DateOnly>("proven") is { } on ? new(on, r.ValueOrNull<DateOnly>("renews")) : null,
            null
        );

    private static NpgsqlBatchCommand InspectionsOf(Named pieces) =>
        new NpgsqlBatchCommand(
            $"""
            select piece_id, kind, verdict, counts_seq, seen_at is not null as correction, signed_by, inspected_on, next_by, made_by,
              array(select k::uuid from jsonb_object_keys(answer_hands) k) as hands
            from standing_inspection
            where piece_id {pieces.Is}
            order by piece_id, counts_seq
            """
        ).Positional(pieces.Value);

    private static (Guid Piece, SignedInspection Inspection) InspectionFrom(NpgsqlDataReader r) =>
        (
            r.Get<Guid>("piece_id"),
            new SignedInspection(
                Code.Parse<InspectionKind>(r.Get<string>("kind")),
                Code.Parse<VerdictKind>(r.Get<string>("verdict")),
                new(r.Get<long>("counts_seq")),
                r.Get<Guid>("signed_by")
            )
            {
                IsCorrection = r.Get<bool>("correction"),
                InspectedOn = r.Get<DateOnly>("inspected_on"),
                NextBy = r.ValueOrNull<DateOnly>("next_by"),
                MadeBy = r.ValueOrNull<Guid>("made_by"),
                Hands = r.Get<Guid[]>("hands"),
            }
        );
}
