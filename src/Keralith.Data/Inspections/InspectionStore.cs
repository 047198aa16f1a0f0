using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>Inspections: drafts kept on every answer, and what was signed.</summary>
public sealed class InspectionStore(Database database)
{
    public Task<Draft?> DraftAsync(Guid id, CancellationToken cancel) =>
        database
            .Command($"{InspectionRows.DraftColumns} where d.id = $1")
            .Positional(id)
            .FirstAsync(InspectionRows.Draft, cancel);

    /// <summary>Open drafts, newest first; of one person, one piece, or all.</summary>
    public Task<List<Draft>> DraftsAsync(Guid? person, Guid? piece, CancellationToken cancel) =>
        database.AskAsync(t => Drafts(t, person, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<Draft>> Drafts(Trip trip, Guid? person, Guid? piece)
    {
        // Asked for what is given alone: a statement whose parameters are now null and now not is parsed and planned each time.
        var asked = new Conditions();
        if (person is not null)
        {
            var hand = asked.Bind(person);
            asked.Add($"(d.saved_by = {hand} or d.started_by = {hand})");
        }

        if (piece is not null)
            asked.Add($"d.piece_id = {asked.Bind(piece)}");
        return trip.All(
            new NpgsqlBatchCommand(
                $"""
                {InspectionRows.DraftColumns}
                where {asked}
                order by d.saved_at desc
                limit 50
                """
            ).Positional(asked.Values),
            InspectionRows.Draft
        );
    }

    /// <summary>Drafts that trainees signed for countersignature, the longest waiting first.</summary>
    public Task<List<Draft>> OfferedAsync(CancellationToken cancel) =>
        database
            .Command($"{InspectionRows.DraftColumns} where d.offered_by is not null order by d.offered_at limit 50")
            .ListAsync(InspectionRows.Draft, cancel);

    public Task<List<DraftAnswer>> AnswersAsync(Guid draft, CancellationToken cancel) =>
        database.AskAsync(t => Answers(t, draft), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    internal static Asked<List<DraftAnswer>> Answers(Trip trip, Guid draft) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select a.part, a.criterion, a.answer, a.value, a.shortest, a.uncertainty, a.note, a.at_x, a.at_y, w.name, a.saved_by, a.saved_at, a.seq,
                  t.name as instrument, t.uncertainty as instrument_uncertainty, t.calibration_due
                from draft_answer a
                join person w on w.id = a.saved_by
                left join instrument t on t.id = a.instrument_id
                where a.draft_id = $1
                """
            ).Positional(draft),
            InspectionRows.Answer
        );

    /// <summary>Signed inspections of a piece, newest first; those corrected or withdrawn among them.</summary>
    public Task<List<InspectionRow>> SignedAsync(Guid piece, CancellationToken cancel) =>
        database.AskAsync(t => OfPiece(t, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<InspectionRow>> OfPiece(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"{InspectionRows.SignedColumns("null::text")} where i.piece_id = $1 order by i.signed_at desc, i.id"
            ).Positional(piece),
            InspectionRows.Signed
        );

    /// <summary>The records of a piece that readings are held against: full inspections that count, the last ones.</summary>
    internal static Asked<List<EarlierRecord>> Earlier(Trip trip, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                $"""
                select case_document, inspected_on, counts_from, coalesce(made_by, signed_by) as by, instruments::text as instruments
                from standing_inspection
                where piece_id = $1 and kind in {Fragments.Full}
                order by counts_seq desc limit {MostEarlier}
                """
            ).Positional(piece),
            r =>
                CaseReader.Read(r.Get<string>("case_document")).Value is { } @case
                    ? new EarlierRecord(
                        @case,
                        r.Get<DateOnly>("inspected_on"),
                        r.Get<DateTimeOffset>("counts_from"),
                        r.Get<Guid>("by"),
                        JsonSerializer.Deserialize<List<string>>(r.Get<string>("instruments"))!
                    )
                    : null,
            rows => rows.OfType<EarlierRecord>().ToList()
        );

    /// <summary>When each part of a piece was last replaced.</summary>
    internal static Asked<Dictionary<string, DateTimeOffset>> Replaced(Trip trip, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                "select part, max(at) as at from part_change where piece_id = $1 group by part"
            ).Positional(piece),
            r => (Part: r.Get<string>("part"), At: r.Get<DateTimeOffset>("at")),
            rows => rows.ToDictionary(r => r.Part, r => r.At)
        );

    /// <summary>What a draft's readings are held against, on a connection of its own.</summary>
    public async Task<IReadOnlyDictionary<(string Part, string Criterion), LastReading>> LastAsync(
        Guid piece,
        IEnumerable<DraftAnswer> answers,
        Guid inspector,
        CancellationToken cancel
    )
    {
        var trip = new Trip();
        var (earlier, replaced) = (Earlier(trip, piece), Replaced(trip, piece));
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        return LastReadings.Of(earlier.Value, replaced.Value, answers, inspector);
    }

    /// <summary>So many records tell what was read last: a doubtful reading is confirmed soon, or not at all.</summary>
    private const int MostEarlier = 20;

    public Task<InspectionRow?> FindSignedAsync(Guid id, CancellationToken cancel) =>
        database
            .Command($"{InspectionRows.SignedColumns("i.verdict_document")} where i.id = $1")
            .Positional(id)
            .FirstAsync(InspectionRows.Signed, cancel);

    /// <summary>The days pieces were inspected between two days, and by whom.</summary>
    public Task<List<InspectionDay>> DaysAsync(
        IEnumerable<Guid> pieces,
        DateOnly from,
        DateOnly until,
        CancellationToken cancel
    ) =>
        database
            .Command(
                """
                select i.piece_id, i.id, i.inspected_on, w.name
                from standing_inspection i
                join person w on w.id = coalesce(i.made_by, i.signed_by)
                where i.piece_id = any($1) and i.inspected_on between $2 and $3 order by i.inspected_on
                """
            )
            .Positional([pieces.ToArray(), from, until])
            .ListAsync(
                r => new InspectionDay(r.GetGuid(0), r.GetGuid(1), r.GetFieldValue<DateOnly>(2), r.GetString(3)),
                cancel
            );

    /// <summary>Opens a draft, or the one already open of that kind: work goes on where it was left.</summary>
    /// <returns>The draft's id, or why none can be opened.</returns>
    public async Task<Checked<Guid>> OpenAsync(Piece piece, InspectionKind kind, Stamp stamp, CancellationToken cancel)
    {
        var draft = Guid.CreateVersion7();

        // A draft's id is never one that a form brings.
        var opened = await Session
            .RunAsync(
                database,
                stamp with
                {
                    Submission = Guid.CreateVersion7(),
                },
                async session =>
                {
                    if (PieceLife.RefusalToInspect(piece.State) is { } refusal)
                        return refusal;
                    var due = PieceLife.KindDue(piece.State, piece.PeriodicDue is not null, kind);
                    var begun = await session
                        .WriteAsync(
                            """
                            insert into draft (id, piece_id, kind, started_by, started_at, saved_by, saved_at)
                            values ($1, $2, $3, $4, $5, $4, $5)
                            on conflict (piece_id, kind) where corrects is null do nothing
                            """,
                            draft,
                            piece.Id,
                            Code.Of(due),
                            stamp.Actor.Id,
                            session.Stamp.At
                        )
                        .ConfigureAwait(false);
                    if (begun == 1)
                        return null;

                    draft = (
                        await session
                            .ReadAsync(
                                "select id from draft where piece_id = $1 and kind = $2 and corrects is null",
                                r => r.GetGuid(0),
                                piece.Id,
                                Code.Of(due)
                            )
                            .ConfigureAwait(false)
                    )[0];
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return opened.Ok ? draft : opened.Refusal!;
    }

    /// <summary>
    /// Keeps answers in the draft. Each must have been read as an answer before; one without answer, figure or note is
    /// taken back.
    /// </summary>
    /// <returns>The draft's new version, or why it could not be kept.</returns>
    public async Task<Checked<int>> SaveAsync(
        Guid draft,
        IReadOnlyCollection<DraftAnswer> answers,
        Actor actor,
        DateTimeOffset at,
        CancellationToken cancel
    )
    {
        var version = 0;

        // Answers are kept again and again as they are given: no id makes one of them the last.
        var saved = await Session
            .RunAsync(
                database,
                new(actor, at, Guid.CreateVersion7()),
                async session =>
                {
                    var now = await session
                        .ReadAsync(
                            """
                            update draft
                            set saved_by = $2, saved_at = $3, version = version + 1,
                              offered_at = case when offered_by = $2 then null else offered_at end, offered_by = nullif(offered_by, $2)
                            where id = $1
                            returning version
                            """,
                            r => r.GetInt32(0),
                            draft,
                            actor.Id,
                            at
                        )
                        .ConfigureAwait(false);
                    if (now.Count == 0)
                        return Refusals.DraftClosed;
                    version = now[0];
                    var trip = new Trip();
                    foreach (var answer in answers)
                        trip.Do(Keep(session, draft, answer));
                    await session.AskAsync(trip).ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return saved.Ok ? version : saved.Refusal!;
    }

    private static NpgsqlBatchCommand Keep(Session session, Guid draft, DraftAnswer answer) =>
        answer is { IsGiven: false, Note: null, Pin: null }
            ? new NpgsqlBatchCommand(
                "delete from draft_answer where draft_id = $1 and part = $2 and criterion = $3"
            ).Positional(draft, answer.Part, answer.Criterion)
            : new NpgsqlBatchCommand(
                """
                insert into draft_answer
                  (draft_id, part, criterion, answer, value, shortest, uncertainty, note, saved_by, saved_at, at_x, at_y, instrument_id)
                values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12,
                  case when $13 then (select instrument_id from instrument_in_hand where person_id = $9 and day = $14) end)
                on conflict (draft_id, part, criterion) do update
                  set answer = excluded.answer, value = excluded.value, shortest = excluded.shortest, uncertainty = excluded.uncertainty,
                    note = excluded.note, saved_by = excluded.saved_by, saved_at = excluded.saved_at, seq = nextval('fact_order'),
                    at_x = coalesce(excluded.at_x, draft_answer.at_x), at_y = coalesce(excluded.at_y, draft_answer.at_y),
                    instrument_id = excluded.instrument_id
                """
            ).Positional(
                draft,
                answer.Part,
                answer.Criterion,
                answer.Entry.Answer,
                answer.Entry.Value,
                answer.Entry.Shortest,
                answer.Entry.Uncertainty,
                answer.Note,
                session.Stamp.Actor.Id,
                session.Stamp.At,
                answer.Pin?.X,
                answer.Pin?.Y,
                answer.IsMeasured,
                session.By.Day
            );

    /// <summary>The case of a draft: the gear, the site's books, and the answers with their baselines.</summary>
    public static Case CaseOf(
        Piece piece,
        InspectionKind kind,
        Site site,
        IEnumerable<DraftAnswer> answers,
        IReadOnlyDictionary<BaselineKey, BaselineRow> baselines,
        IReadOnlyDictionary<(string Part, string Criterion), LastReading>? last = null
    ) => DraftCase.Of(piece, kind, site, answers, baselines.ToDictionary(b => b.Key, b => b.Value.Figure), last);

    /// <summary>Throws a draft away, with all its answers; what it had found goes into the ledger.</summary>
    public Task<Checked<Recorded>> DiscardAsync(Guid draft, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var open = await session
                    .ReadAsync(
                        """
                        select d.piece_id, d.kind, d.started_by, d.offered_by, w.roles
                        from draft d join person w on w.id = d.started_by
                        where d.id = $1
                        for update of d
                        """,
                        r =>
                            (
                                Piece: r.Get<Guid>("piece_id"),
                                Kind: Code.Parse<InspectionKind>(r.Get<string>("kind")),
                                StartedBy: r.Get<Guid>("started_by"),
                                OfferedBy: r.ValueOrNull<Guid>("offered_by"),
                                Roles: Core.People.Roles.Parse(r.Get<string[]>("roles"))
                            ),
                        draft
                    )
                    .ConfigureAwait(false);
                if (open.Count == 0)
                    return Refusals.DraftGone;
                var (id, kind, startedBy, offeredBy, roles) = open[0];
                var beside = new Trip();
                var (answers, baselines) = (Answers(beside, draft), PieceStore.Baselines(beside, id));
                if (await session.LockAsync(id, beside).ConfigureAwait(false) is not { } piece)
                    return Refusals.NoSuchPiece;
                var finding = TraineesFinding.Of(
                    CaseOf(piece, kind, session.Site, answers.Value, baselines.Value),
                    piece.State,
                    session.Site.WatchShare,
                    roles
                );
                var discarded = Discarding.Of(draft, startedBy, offeredBy, answers.Value, session.By, finding);
                if (!discarded.Ok)
                    return discarded.Refusal;
                await session.WriteAsync("delete from draft where id = $1", draft).ConfigureAwait(false);
                var (record, state, hold) = discarded.Value;
                if (hold is not null)
                {
                    await session.HoldAsync(piece.Id, hold).ConfigureAwait(false);
                    await session.DeriveAsync(piece, state!.Value).ConfigureAwait(false);
                }

                if (record is not null)
                    await session.LedgerAsync(record, piece.Mark).ConfigureAwait(false);
                return null;
            },
            cancel
        );
}
