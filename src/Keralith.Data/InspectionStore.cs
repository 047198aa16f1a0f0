using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>An inspection under way.</summary>
public sealed record Draft(
    Guid Id,
    Guid Piece,
    string Mark,
    InspectionKind Kind,
    string StartedBy,
    DateTimeOffset StartedAt,
    string SavedBy,
    DateTimeOffset SavedAt,
    int Version,
    int Answers
)
{
    /// <summary>The trainee who signed it for countersignature; null where nobody did.</summary>
    public string? OfferedBy { get; init; }

    public DateTimeOffset? OfferedAt { get; init; }

    /// <summary>The day it was inspected, as the trainee signed.</summary>
    public DateOnly? InspectedOn { get; init; }

    /// <summary>What the countersigner said when handing it back; null where it was not.</summary>
    public string? Remark { get; init; }

    public string? RemarkBy { get; init; }

    /// <summary>The record it corrects, and why; null: an inspection of its own.</summary>
    public Corrected? Corrects { get; init; }
}

/// <summary>The record a draft corrects.</summary>
/// <param name="Record">Its id.</param>
/// <param name="Why">What is wrong with it.</param>
/// <param name="Seen">Where among the facts the first of the records it stands for was signed.</param>
public sealed record Corrected(
    Guid Record,
    string Why,
    VerdictKind Verdict,
    DateOnly InspectedOn,
    FactOrder Seen,
    string SignedBy
);

/// <summary>What became of a wrong record.</summary>
/// <param name="Became">The record in its place; null: withdrawn.</param>
public sealed record Superseded(Guid? Became, string Why, DateTimeOffset At, string By);

/// <summary>A signed inspection.</summary>
/// <param name="VerdictDocument">The judgement in full; null where many are listed.</param>
public sealed record InspectionRow(
    Guid Id,
    Guid Piece,
    InspectionKind Kind,
    DateOnly InspectedOn,
    DateTimeOffset SignedAt,
    string SignedBy,
    VerdictKind Verdict,
    bool Complete,
    string CatalogueVersion,
    string CaseDocument,
    string? VerdictDocument,
    string Notes,
    WorkedTo WorkedTo
)
{
    /// <summary>What the site asked of its own, as it was asked.</summary>
    public IReadOnlyList<OwnAsked> Own { get; init; } = [];

    /// <summary>What a criterion was called, the site's own among them.</summary>
    public string TitleOf(string criterion) =>
        Catalogue.Find(criterion)?.Title ?? Own.FirstOrDefault(o => o.Question == criterion)?.Title ?? criterion;

    /// <summary>What was written beside its findings: of which part and question, or of the whole.</summary>
    /// <param name="partNames">Names of parts by their paths.</param>
    public IReadOnlyList<(string Where, string Note)> NotesTold(IReadOnlyDictionary<string, string> partNames) =>
        [
            .. System
                .Text.Json.JsonSerializer.Deserialize<Dictionary<string, string>>(Notes)!
                .Select(n =>
                    (
                        n.Key.Split(' ') is [var part, var criterion]
                            ? $"{partNames.GetValueOrDefault(part, part)}, {TitleOf(criterion)}"
                            : n.Key,
                        n.Value
                    )
                ),
        ];

    /// <summary>Who inspected, where somebody else countersigned.</summary>
    public string? MadeBy { get; init; }

    /// <summary>The people who made it and signed it.</summary>
    public IReadOnlyList<Guid> Hands { get; init; } = [];

    /// <summary>Why the verdict is stricter than the rules; null where it is not.</summary>
    public string? Stricter { get; init; }

    /// <summary>The earlier day set for the next full inspection.</summary>
    public DateOnly? NextBy { get; init; }

    public int? Minutes { get; init; }

    public int? PartsTouched { get; init; }

    /// <summary>What readings were taken with, in words.</summary>
    public IReadOnlyList<string> Instruments { get; init; } = [];

    /// <summary>Where on the drawing findings were pinned, by part and criterion.</summary>
    public IReadOnlyDictionary<string, Pin> Pins { get; init; } = new Dictionary<string, Pin>();

    /// <summary>From when it counts: its signature, or for a correction that of the record it corrects.</summary>
    public DateTimeOffset CountsFrom { get; init; }

    /// <summary>The record it corrects; null: none.</summary>
    public Guid? Corrects { get; init; }

    public string? CorrectsWhy { get; init; }

    /// <summary>What took its place, or that it was withdrawn; null: it counts.</summary>
    public Superseded? Superseded { get; init; }

    public bool Counts => Superseded is null;
}

/// <summary>What an inspection was judged by beside its case.</summary>
/// <param name="WatchShare">The share of an allowance from which a piece was watched; null in the oldest records.</param>
/// <param name="Editions">Edition years of the books, where the site said one; null in the oldest records.</param>
public sealed record WorkedTo(decimal? WatchShare, IReadOnlyDictionary<string, int>? Editions);

/// <summary>That a piece was inspected on a day.</summary>
public sealed record InspectionDay(Guid Piece, Guid Id, DateOnly Day, string By);

/// <summary>Inspections: drafts kept on every answer, and what was signed.</summary>
public sealed class InspectionStore(Database database)
{
    private const string DraftColumns = """
        select d.id, d.piece_id, p.mark, d.kind, a.name as started_by, d.started_at, b.name as saved_by, d.saved_at, d.version,
               (select count(*)::int from draft_answer w where w.draft_id = d.id) as answers, d.offered_at, d.inspected_on, d.remark,
               (select o.name from person o where o.id = d.offered_by) as offered_by, (select o.name from person o where o.id = d.remark_by) as remark_by,
               d.corrects, d.correction_why, c.verdict as corrects_verdict, c.inspected_on as corrects_day, c.counts_seq as corrects_seen, (select w.name from person w where w.id = c.signed_by) as corrects_by
        from draft d
        join piece p on p.id = d.piece_id
        join person a on a.id = d.started_by
        join person b on b.id = d.saved_by
        left join inspection c on c.id = d.corrects
        """;

    /// <param name="verdict">The judgement in full, or null.</param>
    private static string SignedColumns(string verdict) =>
        $"""
            select i.id, i.piece_id, i.kind, i.inspected_on, i.signed_at, w.name as signed_by, i.verdict, i.complete, i.catalogue_version, i.case_document, i.own_document, {verdict} as verdict_document, i.notes::text as notes, i.worked_to::text as worked_to,
                   (select m.name from person m where m.id = i.made_by) as made_by, array_remove(array[i.signed_by, i.made_by], null) as hands, i.stricter, i.next_by, i.instruments::text as instruments, i.minutes, i.parts_touched, i.pins::text as pins, i.counts_from,
                   f.inspection_id as corrects, f.why as corrects_why, s.became, s.why as superseded_why, s.at as superseded_at, (select m.name from person m where m.id = s.by_person) as superseded_by
            from inspection i
            join person w on w.id = i.signed_by
            left join supersession s on s.inspection_id = i.id
            left join supersession f on f.became = i.id
            """;

    public Task<Draft?> DraftAsync(Guid id, CancellationToken cancel) =>
        database.Command($"{DraftColumns} where d.id = $1").Positional(id).FirstAsync(DraftFrom, cancel);

    /// <summary>Open drafts, newest first; of one person, one piece, or all.</summary>
    public Task<List<Draft>> DraftsAsync(Guid? person, Guid? piece, CancellationToken cancel) =>
        database.AskAsync(t => Drafts(t, person, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<Draft>> Drafts(Trip trip, Guid? person, Guid? piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                {DraftColumns}
                where ($1::uuid is null or d.saved_by = $1 or d.started_by = $1) and ($2::uuid is null or d.piece_id = $2)
                order by d.saved_at desc limit 50
                """
            ).Positional(person, piece),
            DraftFrom
        );

    /// <summary>Drafts that trainees signed for countersignature, the longest waiting first.</summary>
    public Task<List<Draft>> OfferedAsync(CancellationToken cancel) =>
        database
            .Command($"{DraftColumns} where d.offered_by is not null order by d.offered_at limit 50")
            .ListAsync(DraftFrom, cancel);

    public Task<List<DraftAnswer>> AnswersAsync(Guid draft, CancellationToken cancel) =>
        database.AskAsync(t => Answers(t, draft), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    internal static Asked<List<DraftAnswer>> Answers(Trip trip, Guid draft) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select a.part, a.criterion, a.answer, a.value, a.shortest, a.uncertainty, a.note, a.at_x, a.at_y, w.name, a.saved_at, a.seq,
                  t.name as instrument, t.uncertainty as instrument_uncertainty, t.calibration_due
                from draft_answer a
                join person w on w.id = a.saved_by
                left join instrument t on t.id = a.instrument_id
                where a.draft_id = $1
                """
            ).Positional(draft),
            Answer
        );

    /// <summary>Signed inspections of a piece, newest first; those corrected or withdrawn among them.</summary>
    public Task<List<InspectionRow>> SignedAsync(Guid piece, CancellationToken cancel) =>
        database.AskAsync(t => OfPiece(t, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<InspectionRow>> OfPiece(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"{SignedColumns("null::text")} where i.piece_id = $1 order by i.signed_at desc, i.id"
            ).Positional(piece),
            Signed
        );

    public Task<InspectionRow?> FindSignedAsync(Guid id, CancellationToken cancel) =>
        database
            .Command($"{SignedColumns("i.verdict_document")} where i.id = $1")
            .Positional(id)
            .FirstAsync(Signed, cancel);

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
        IReadOnlyDictionary<BaselineKey, BaselineRow> baselines
    ) => DraftCase.Of(piece, kind, site, answers, baselines.ToDictionary(b => b.Key, b => b.Value.Figure));

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
                        select d.started_by, d.offered_by, p.mark
                        from draft d join piece p on p.id = d.piece_id
                        where d.id = $1
                        for update of d
                        """,
                        r =>
                            (
                                StartedBy: r.Get<Guid>("started_by"),
                                OfferedBy: r.ValueOrNull<Guid>("offered_by"),
                                Mark: r.Get<string>("mark")
                            ),
                        draft
                    )
                    .ConfigureAwait(false);
                if (open.Count == 0)
                    return Refusals.DraftGone;
                var answers = await session.AskAsync(t => Answers(t, draft)).ConfigureAwait(false);
                var discarded = Discarding.Of(draft, open[0].StartedBy, open[0].OfferedBy, answers, session.By);
                if (!discarded.Ok)
                    return discarded.Refusal;
                await session.WriteAsync("delete from draft where id = $1", draft).ConfigureAwait(false);
                if (discarded.Value is { } record)
                    await session.LedgerAsync(record, open[0].Mark).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    internal static DraftAnswer Answer(NpgsqlDataReader r) =>
        new(
            r.Get<string>("part"),
            r.Get<string>("criterion"),
            new(r.TextOrNull("answer"), r.TextOrNull("value"), r.TextOrNull("shortest"), r.TextOrNull("uncertainty")),
            r.TextOrNull("note"),
            r.Get<string>("name"),
            r.Get<DateTimeOffset>("saved_at")
        )
        {
            Order = new(r.Get<long>("seq")),
            Instrument = r.TextOrNull("instrument") is { } name
                ? new(
                    name,
                    Core.Quantities.Length.Parse(r.Get<string>("instrument_uncertainty")),
                    r.Get<DateOnly>("calibration_due")
                )
                : null,
            Pin = r.ValueOrNull<decimal>("at_x") is { } x ? new(x, r.Get<decimal>("at_y")) : null,
        };

    private static Draft DraftFrom(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("id"),
            r.Get<Guid>("piece_id"),
            r.Get<string>("mark"),
            Code.Parse<InspectionKind>(r.Get<string>("kind")),
            r.Get<string>("started_by"),
            r.Get<DateTimeOffset>("started_at"),
            r.Get<string>("saved_by"),
            r.Get<DateTimeOffset>("saved_at"),
            r.Get<int>("version"),
            r.Get<int>("answers")
        )
        {
            OfferedBy = r.TextOrNull("offered_by"),
            OfferedAt = r.ValueOrNull<DateTimeOffset>("offered_at"),
            InspectedOn = r.ValueOrNull<DateOnly>("inspected_on"),
            Remark = r.TextOrNull("remark"),
            RemarkBy = r.TextOrNull("remark_by"),
            Corrects = r.ValueOrNull<Guid>("corrects") is { } wrong
                ? new(
                    wrong,
                    r.Get<string>("correction_why"),
                    Code.Parse<VerdictKind>(r.Get<string>("corrects_verdict")),
                    r.Get<DateOnly>("corrects_day"),
                    new(r.Get<long>("corrects_seen")),
                    r.Get<string>("corrects_by")
                )
                : null,
        };

    private static InspectionRow Signed(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("id"),
            r.Get<Guid>("piece_id"),
            Code.Parse<InspectionKind>(r.Get<string>("kind")),
            r.Get<DateOnly>("inspected_on"),
            r.Get<DateTimeOffset>("signed_at"),
            r.Get<string>("signed_by"),
            Code.Parse<VerdictKind>(r.Get<string>("verdict")),
            r.Get<bool>("complete"),
            r.Get<string>("catalogue_version"),
            r.Get<string>("case_document"),
            r.TextOrNull("verdict_document"),
            r.Get<string>("notes"),
            JsonSerializer.Deserialize<WorkedTo>(r.Get<string>("worked_to"))!
        )
        {
            Own = OwnDocument.Read(r.TextOrNull("own_document")),
            MadeBy = r.TextOrNull("made_by"),
            Stricter = r.TextOrNull("stricter"),
            NextBy = r.ValueOrNull<DateOnly>("next_by"),
            Minutes = r.ValueOrNull<int>("minutes"),
            PartsTouched = r.ValueOrNull<int>("parts_touched"),
            Instruments = JsonSerializer.Deserialize<List<string>>(r.Get<string>("instruments"))!,
            Pins = JsonSerializer.Deserialize<Dictionary<string, Pin>>(r.Get<string>("pins"))!,
            CountsFrom = r.Get<DateTimeOffset>("counts_from"),
            Hands = r.Get<Guid[]>("hands"),
            Corrects = r.ValueOrNull<Guid>("corrects"),
            CorrectsWhy = r.TextOrNull("corrects_why"),
            Superseded = r.TextOrNull("superseded_why") is { } why
                ? new(
                    r.ValueOrNull<Guid>("became"),
                    why,
                    r.Get<DateTimeOffset>("superseded_at"),
                    r.Get<string>("superseded_by")
                )
                : null,
        };
}
