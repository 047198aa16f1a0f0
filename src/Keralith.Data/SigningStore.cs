using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Schedule;
using Npgsql;

namespace Keralith.Data;

/// <summary>What is signed, as it was read.</summary>
/// <param name="Version">The version of the draft that was read before signing.</param>
/// <param name="InspectedOn">The day it was made; taken from the trainee's signature when it is countersigned.</param>
public sealed record Signing(int Version, DateOnly? InspectedOn)
{
    /// <summary>What the signer adds: a stricter verdict, a reason.</summary>
    public Signature With { get; init; } = Signature.Plain;

    /// <summary>An earlier day for the next full inspection; null: the interval alone.</summary>
    public DateOnly? NextBy { get; init; }
}

/// <summary>Signing inspections: alone, for countersignature, or by countersigning; and what a signature does.</summary>
public sealed class SigningStore(Database database, SiteStore sites)
{
    private sealed record OpenDraft(
        Guid Piece,
        InspectionKind Kind,
        Guid? OfferedBy,
        DateOnly? InspectedOn,
        DateTimeOffset StartedAt
    )
    {
        /// <summary>The record it corrects, and why; null: an inspection of its own.</summary>
        public Guid? Corrects { get; init; }

        public string? CorrectionWhy { get; init; }

        /// <summary>Whether it lies in the drafts: a look made in one press does not.</summary>
        public bool IsDraft { get; init; } = true;

        /// <summary>From when what it corrects counts: figures when new are those of then.</summary>
        public DateTimeOffset? SeenAt { get; init; }
    }

    private readonly Recorder _recorder = new(database);

    /// <summary>Signs a draft: judges it as it stands, keeps case and verdict, and puts what fails in the cage.</summary>
    /// <param name="draft">The draft; its id becomes the record's.</param>
    /// <param name="signing">What is signed, as it was read.</param>
    public Task<Checked<Recorded>> SignAsync(Guid draft, Signing signing, Stamp stamp, CancellationToken cancel) =>
        _recorder.RecordAsync(
            stamp with
            {
                Submission = draft,
            },
            async transaction =>
            {
                var (open, refused) = await LockAsync(transaction, draft, signing.Version, cancel)
                    .ConfigureAwait(false);
                if (open is null)
                    return refused;
                if (open.OfferedBy == stamp.Actor.Id)
                    return "Nobody countersigns their own inspection.";

                // What a trainee signed is dated as the trainee inspected it; it counts from the countersignature.
                if (open.OfferedBy is not null)
                    signing = signing with { InspectedOn = open.InspectedOn! };
                var answers = await transaction
                    .Command(InspectionStore.AnswerSql)
                    .Positional(draft)
                    .ListAsync(InspectionStore.Answer, cancel)
                    .ConfigureAwait(false);
                var refusal = await RecordAsync(transaction, draft, open, (_, _) => answers, signing, stamp, cancel)
                    .ConfigureAwait(false);
                if (refusal is null)
                    await transaction
                        .Command("delete from draft where id = $1")
                        .Positional(draft)
                        .RunAsync(cancel)
                        .ConfigureAwait(false);
                return refusal;
            },
            cancel
        );

    /// <summary>Signs the look before use of a piece with no fault on it: everything a frequent check asks, answered "no fault".</summary>
    public Task<Checked<Recorded>> SignCleanCheckAsync(
        PieceRow piece,
        DateOnly inspectedOn,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _recorder.RecordAsync(
            stamp,
            transaction =>
                RecordAsync(
                    transaction,
                    stamp.Submission,
                    new(piece.Id, InspectionKind.Frequent, null, null, stamp.At) { IsDraft = false },
                    (row, site) =>
                        Judge
                            .MissingAnswers(new(site.Books, InspectionKind.Frequent, row.GearAt(site), [], []))
                            .Where(m => m.Criterion.IsAnswerChosen)
                            .Select(m => new DraftAnswer(
                                m.Part,
                                m.Criterion.Id,
                                new(Code.Of(Found.No)),
                                null,
                                stamp.Actor.Name,
                                stamp.At
                            ))
                            .ToList(),
                    new(0, inspectedOn),
                    stamp,
                    cancel
                ),
            cancel
        );

    /// <summary>Judges the answers, keeps case and verdict, puts what fails in the cage, derives the piece and appends to the ledger.</summary>
    private static async Task<string?> RecordAsync(
        NpgsqlTransaction transaction,
        Guid id,
        OpenDraft open,
        Func<PieceRow, Site, IReadOnlyList<DraftAnswer>> answersOf,
        Signing signing,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        if (signing.InspectedOn is not { } inspectedOn)
            return "Say on which day it was inspected.";
        var kind = open.Kind;
        var right = Correction.Signs(kind);
        if (!stamp.Actor.Role.May(right))
            return "Your role may draft this inspection, not sign it. Pass the draft to an inspector: it stays in the tray.";
        if (inspectedOn > DateOnly.FromDateTime(stamp.At.UtcDateTime).AddDays(1))
            return "The day of the inspection lies in the future.";
        var beside = new Trip();
        var (standing, figures, newestHold, leave) = (
            SiteStore.Site(beside),
            PieceStore.Baselines(beside, open.Piece, open.SeenAt),
            NewestHold(beside, open.Piece),
            PeopleStore.Authorisations(beside, stamp.Actor.Id)
        );
        if (await Recorder.LockAsync(transaction, open.Piece, cancel, beside).ConfigureAwait(false) is not { } piece)
            return "There is no such piece.";
        if (
            right == Right.SignInspection
            && Authorisation.RefusalToSign(leave.Value, piece.Gear.Family, DateOnly.FromDateTime(stamp.At.UtcDateTime))
                is { } unauthorised
        )
            return unauthorised;
        var (site, baselines) = (standing.Value!, figures.Value);
        var answers = answersOf(piece, site);
        var wrong = open.Corrects is { } corrects
            ? await CorrectionStore.FindAsync(transaction, corrects, cancel).ConfigureAwait(false)
            : null;
        if (wrong is { IsSuperseded: true })
            return CorrectionStore.CorrectedAlready;
        var @case = InspectionStore.CaseOf(piece, kind, site, answers, baselines);
        var given = answers.Where(a => a.Entry is not { Answer: null, Value: null }).ToList();
        if (@case.Answers.DistinctBy(a => (a.Part, a.Criterion)).Count() != given.Count)
            return "Some answers belong to parts or questions this piece no longer has: it was changed since. Throw the draft away and look at all of it again.";
        var verdict = Judge.Of(@case, site.WatchShare);
        var instruments = given.Select(a => a.Instrument).OfType<Instrument>().Distinct().ToList();
        var isFull = kind is not (InspectionKind.Frequent or InspectionKind.Return);
        var signedAs = signing.With.Of(verdict.Kind, isFull, instruments, inspectedOn);
        if (!signedAs.Ok)
            return signedAs.Fault;
        var kindSigned = signedAs.Value;
        if (
            wrong is not null
            && Correction.Refusal(wrong.Facts, kindSigned, inspectedOn, stamp.Actor.Role) is { } uncorrected
        )
            return uncorrected;
        if (
            kindSigned is VerdictKind.Fit or VerdictKind.Watch
            && Freshness.Refusal(given.ConvertAll(a => a.SavedAt), newestHold.Value, stamp.At) is { } stale
        )
            return stale;
        var state = wrong is null
            ? PieceLife.AfterInspection(piece.State, kind, kindSigned, piece.OpenHolds.Count)
            : Correction.After(piece.State, kindSigned);
        if (!state.Ok)
            return state.Fault;
        if (
            signing.NextBy is { } next
            && (
                !isFull
                || next <= inspectedOn
                || next > Intervals.Periodic(piece.Gear.Family, piece.ServiceClass, site.Books).After(inspectedOn)
            )
        )
            return "The next inspection may be set earlier than the interval allows, never later.";
        var nextBy = Correction.NextBy(wrong?.NextBy, signing.NextBy);
        var stricter =
            kindSigned == verdict.Kind
                ? null
                : string.Join(
                    ' ',
                    new[] { signing.With.Reason, signing.With.InstrumentReason }
                        .Where(r => !string.IsNullOrWhiteSpace(r))
                        .Select(r => r!.Trim())
                );

        var notes = answers
            .Where(a => !string.IsNullOrWhiteSpace(a.Note))
            .ToDictionary(a => $"{a.Part} {a.Criterion}", a => a.Note!);
        var pins = answers
            .Where(a => a.Pin is not null)
            .ToDictionary(a => $"{a.Part} {a.Criterion}", a => a.Pin!.Value);
        var taken = (wrong?.Instruments ?? [])
            .Concat(
                instruments.Select(i => $"{i.Name}, +/- {i.Uncertainty}, calibrated to {i.CalibrationDue:yyyy-MM-dd}")
            )
            .Distinct()
            .ToList();
        var caseDocument = CaseWriter.Write(@case);
        var verdictDocument = VerdictWriter.Write(verdict);
        var workedTo = new WorkedTo(
            site.WatchShare,
            site.Books.Where(b => site.Editions.ContainsKey(b.Id)).ToDictionary(b => b.Id, b => site.Editions[b.Id])
        );
        await transaction
            .Command(
                """
                insert into inspection (id, piece_id, kind, inspected_on, signed_at, signed_by, verdict, complete, catalogue_version, case_document, verdict_document, notes, worked_to, made_by, stricter, next_by, instruments, minutes, parts_touched, pins, seen_at)
                values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12::jsonb, $13::jsonb, $14, $15, $16, $17::jsonb, $18, $19, $20::jsonb, $21)
                """
            )
            .Positional(
                id,
                piece.Id,
                Code.Of(kind),
                inspectedOn,
                stamp.At,
                stamp.Actor.Id,
                Code.Of(kindSigned),
                verdict.Complete,
                Catalogue.Version,
                caseDocument,
                verdictDocument,
                JsonSerializer.Serialize(notes),
                JsonSerializer.Serialize(workedTo),
                open.OfferedBy,
                stricter,
                nextBy,
                JsonSerializer.Serialize(taken),
                wrong is null ? Minutes(open, given, stamp) : null,
                given.Select(a => a.Part).Distinct().Count(),
                JsonSerializer.Serialize(pins),
                wrong?.CountsFrom
            )
            .RunAsync(cancel)
            .ConfigureAwait(false);
        if (wrong is not null)
            await CorrectionStore
                .SupersedeAsync(transaction, wrong.Id, id, open.CorrectionWhy!, stamp, cancel)
                .ConfigureAwait(false);
        var photos = !open.IsDraft
            ? []
            : await transaction
                .Command(
                    "insert into inspection_photo (inspection_id, part, criterion, attachment_id) select draft_id, part, criterion, attachment_id from draft_photo where draft_id = $1 returning attachment_id"
                )
                .Positional(id)
                .ListAsync(r => r.GetGuid(0), cancel)
                .ConfigureAwait(false);
        if (
            HoldRules.CauseOf(verdict, kindSigned) is { } cause
            && !(
                wrong is not null
                && await CorrectionStore.HoldsStillAsync(transaction, wrong.Id, cause, cancel).ConfigureAwait(false)
            )
        )
        {
            await CustodyStore
                .InsertHoldAsync(
                    transaction,
                    Guid.NewGuid(),
                    piece.Id,
                    cause,
                    stricter ?? Reason(@case, verdict),
                    id,
                    stamp,
                    cancel
                )
                .ConfigureAwait(false);
        }

        await Recorder.DeriveAsync(transaction, site, piece, state.Value, cancel).ConfigureAwait(false);
        using var caseJson = JsonDocument.Parse(caseDocument);
        using var verdictJson = JsonDocument.Parse(verdictDocument);
        await LedgerStore
            .AppendAsync(
                transaction,
                stamp,
                "inspection.signed",
                piece.Mark,
                new
                {
                    inspection = id,
                    inspectedOn,
                    catalogue = Catalogue.Version,
                    workedTo,
                    @case = caseJson.RootElement,
                    verdict = verdictJson.RootElement,
                    signedAs = Code.Of(kindSigned),
                    stricter,
                    madeBy = open.OfferedBy,
                    nextBy,
                    instruments = taken,
                    notes,
                    pins,
                    photos,
                    corrects = wrong?.Id,
                    correctionWhy = wrong is null ? null : open.CorrectionWhy,
                },
                cancel
            )
            .ConfigureAwait(false);
        return null;
    }

    private static Asked<DateTimeOffset?> NewestHold(Trip trip, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                "select case when max(h.placed_at) is not null then greatest(max(h.placed_at), (select max(t.at) from retag t where t.piece_id = $1)) end as at from hold h left join release r on r.hold_id = h.id where h.piece_id = $1 and r.hold_id is null"
            ).Positional(piece),
            r => r.ValueOrNull<DateTimeOffset>("at"),
            rows => rows[0]
        );

    /// <summary>The findings that put it in the cage, in one line.</summary>
    private static string Reason(Case @case, Verdict verdict)
    {
        var names = @case.Parts.ToDictionary(p => p.Path, p => p.Name.ToLowerInvariant());
        var gravest = verdict.Findings.Max(f => f.Outcome);
        var worst = verdict.Findings.Where(f => f.Outcome == gravest).ToList();
        var first = string.Join("; ", worst.Take(2).Select(f => $"{f.Criterion.Title}: {names[f.Part]}"));
        return worst.Count > 2 ? $"{first}; and {worst.Count - 2} more" : first;
    }

    /// <summary>A trainee signs for countersignature: the draft waits for somebody who may sign. What it finds against the piece stops it at once.</summary>
    public Task<Checked<Recorded>> OfferAsync(Guid draft, Signing signing, Stamp stamp, CancellationToken cancel) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                if (!stamp.Actor.Role.May(Right.Draft))
                    return "Your role does not allow this.";
                var (open, refused) = await LockAsync(transaction, draft, signing.Version, cancel)
                    .ConfigureAwait(false);
                if (open is null)
                    return refused;
                if (open.OfferedBy is not null)
                    return "It waits for countersignature already.";
                if (await Recorder.LockAsync(transaction, open.Piece, cancel).ConfigureAwait(false) is not { } piece)
                    return "There is no such piece.";
                if (signing.InspectedOn is not { } day || day > DateOnly.FromDateTime(stamp.At.UtcDateTime).AddDays(1))
                    return "The day of the inspection lies in the future.";
                var site = await sites.GetAsync(cancel).ConfigureAwait(false);
                var answers = await transaction
                    .Command(InspectionStore.AnswerSql)
                    .Positional(draft)
                    .ListAsync(InspectionStore.Answer, cancel)
                    .ConfigureAwait(false);
                var baselines = await PieceStore
                    .BaselinesAsync(transaction.Command(string.Empty), piece.Id, cancel, open.SeenAt)
                    .ConfigureAwait(false);
                var @case = InspectionStore.CaseOf(piece, open.Kind, site, answers, baselines);
                var verdict = Judge.Of(@case, site.WatchShare);
                if (verdict.Kind == VerdictKind.Incomplete)
                    return "The inspection is not complete: every question needs an answer before it can be signed.";
                await transaction
                    .Command(
                        "update draft set offered_by = $2, offered_at = $3, inspected_on = $4, remark = null, remark_by = null, version = version + 1 where id = $1"
                    )
                    .Positional(draft, stamp.Actor.Id, stamp.At, day)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                var state = verdict.Kind is VerdictKind.Hold or VerdictKind.Remove
                    ? PieceLife.AfterHold(piece.State)
                    : (Checked<PieceState>)piece.State;
                if (!state.Ok)
                    return state.Fault;
                if (verdict.Kind is VerdictKind.Hold or VerdictKind.Remove)
                    await CustodyStore
                        .InsertHoldAsync(
                            transaction,
                            Guid.NewGuid(),
                            piece.Id,
                            HoldCause.Doubt,
                            $"Found by {stamp.Actor.Name}, not countersigned yet: {Reason(@case, verdict)}",
                            null,
                            stamp,
                            cancel
                        )
                        .ConfigureAwait(false);
                await Recorder.DeriveAsync(transaction, site, piece, state.Value, cancel).ConfigureAwait(false);
                await LedgerStore
                    .AppendAsync(
                        transaction,
                        stamp,
                        "inspection.offered",
                        piece.Mark,
                        new
                        {
                            inspection = draft,
                            inspectedOn = day,
                            verdict = Code.Of(verdict.Kind),
                        },
                        cancel
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Hands a trainee's draft back with a remark.</summary>
    public Task<Checked<Recorded>> HandBackAsync(
        Guid draft,
        int version,
        string remark,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                if (!stamp.Actor.Role.May(Right.SignInspection))
                    return "Your role does not allow this.";
                var (open, refused) = await LockAsync(transaction, draft, version, cancel).ConfigureAwait(false);
                if (open is null)
                    return refused;
                if (open.OfferedBy is null)
                    return "Nobody signed it for countersignature.";
                if (string.IsNullOrWhiteSpace(remark) || remark.Length > 500)
                    return "Say what is to be looked at again, in up to 500 letters.";
                await transaction
                    .Command(
                        "update draft set offered_by = null, offered_at = null, remark = $2, remark_by = $3, version = version + 1 where id = $1"
                    )
                    .Positional(draft, remark.Trim(), stamp.Actor.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                var mark = (
                    await transaction
                        .Command("select mark from piece where id = $1")
                        .Positional(open.Piece)
                        .ListAsync(r => r.GetString(0), cancel)
                        .ConfigureAwait(false)
                )[0];
                await LedgerStore
                    .AppendAsync(
                        transaction,
                        stamp,
                        "inspection.handed-back",
                        mark,
                        new { inspection = draft, remark = remark.Trim() },
                        cancel
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static async Task<(OpenDraft? Open, string? Refused)> LockAsync(
        NpgsqlTransaction transaction,
        Guid draft,
        int version,
        CancellationToken cancel
    )
    {
        var open = await transaction
            .Command(
                "select d.piece_id, d.kind, d.version, d.offered_by, d.inspected_on, d.started_at, d.corrects, d.correction_why, c.counts_from from draft d left join inspection c on c.id = d.corrects where d.id = $1 for update of d"
            )
            .Positional(draft)
            .ListAsync(
                r =>
                    (
                        Draft: new OpenDraft(
                            r.Get<Guid>("piece_id"),
                            Code.Parse<InspectionKind>(r.Get<string>("kind")),
                            r.ValueOrNull<Guid>("offered_by"),
                            r.ValueOrNull<DateOnly>("inspected_on"),
                            r.Get<DateTimeOffset>("started_at")
                        )
                        {
                            Corrects = r.ValueOrNull<Guid>("corrects"),
                            CorrectionWhy = r.TextOrNull("correction_why"),
                            SeenAt = r.ValueOrNull<DateTimeOffset>("counts_from"),
                        },
                        Version: r.Get<int>("version")
                    ),
                cancel
            )
            .ConfigureAwait(false);
        return open.Count == 0 ? (null, "This draft was thrown away.")
            : open[0].Version != version
                ? (
                    null,
                    "Answers were changed since you read the verdict. Nothing was signed: read it again, then sign."
                )
            : (open[0].Draft, null);
    }

    /// <summary>Minutes from opening the draft to the last answer; null for a look made in one press, and where the work was spread over more than a day.</summary>
    private static int? Minutes(OpenDraft open, IReadOnlyCollection<DraftAnswer> given, Stamp stamp) =>
        given.Count == 0
        || open.StartedAt == stamp.At
        || given.Max(a => a.SavedAt) - open.StartedAt is var taken && taken > TimeSpan.FromDays(1)
            ? null
            : (int)Math.Ceiling((given.Max(a => a.SavedAt) - open.StartedAt).TotalMinutes);
}
