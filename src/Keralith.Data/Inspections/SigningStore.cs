using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Core.Signing;

namespace Keralith.Data;

/// <summary>Signing inspections: alone, for countersignature, or by countersigning.</summary>
public sealed class SigningStore(Database database)
{
    /// <summary>A draft as it is signed.</summary>
    private sealed record OpenDraft(Guid Id, Guid Piece, InspectionKind Kind, DateTimeOffset StartedAt)
    {
        public int Version { get; init; }

        public Guid? OfferedBy { get; init; }

        /// <summary>The day the trainee inspected it.</summary>
        public DateOnly? OfferedFor { get; init; }

        /// <summary>The record it corrects, and why; null: an inspection of its own.</summary>
        public Guid? Corrects { get; init; }

        public string? CorrectionWhy { get; init; }

        /// <summary>Whether it lies in the drafts: a look made in one press does not.</summary>
        public bool IsDraft { get; init; } = true;

        /// <summary>Where among the facts what it corrects stands: figures when new are those of then.</summary>
        public FactOrder? Seen { get; init; }
    }

    /// <summary>Signs a draft: judges it as it stands, keeps case and verdict, and puts what fails in the cage.</summary>
    /// <param name="draft">The draft; its id becomes the record's.</param>
    /// <param name="signing">What is signed, as it was read.</param>
    public Task<Checked<Recorded>> SignAsync(
        Guid draft,
        SignatureRead signing,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var open = await LockAsync(session, draft, signing.Version).ConfigureAwait(false);
                if (!open.Ok)
                    return open.Refusal;
                var answers = await session.AskAsync(t => InspectionStore.Answers(t, draft)).ConfigureAwait(false);
                if (
                    await RecordAsync(session, open.Value, (_, _) => answers, signing).ConfigureAwait(false) is
                    { } refusal
                )
                    return refusal;
                await session.WriteAsync("delete from draft where id = $1", draft).ConfigureAwait(false);
                WorksMeter.Signings.Add(1);
                return null;
            },
            cancel
        );

    /// <summary>
    /// Signs the look before use of a piece with no fault on it: everything a frequent check asks, answered "no fault".
    /// </summary>
    /// <param name="inspectedOn">The day; null: the day of its site.</param>
    public Task<Checked<Recorded>> SignCleanCheckAsync(
        Piece piece,
        DateOnly? inspectedOn,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session =>
                RecordAsync(
                    session,
                    new(stamp.Submission, piece.Id, InspectionKind.Frequent, session.Stamp.At) { IsDraft = false },
                    (row, site) => DraftCase.Clean(row, site, stamp.Actor.Name, session.Stamp.At),
                    new(0, inspectedOn ?? session.Sites.Of(piece.SiteId).DayOf(session.Stamp.At))
                ),
            cancel
        );

    /// <summary>
    /// Asks Core what a signature comes to, keeps case and verdict, puts what fails in the cage, derives the piece and
    /// appends to the ledger.
    /// </summary>
    private static async Task<Refusal?> RecordAsync(
        Session session,
        OpenDraft open,
        Func<Piece, Core.Sites.Site, IReadOnlyList<DraftAnswer>> answersOf,
        SignatureRead signing
    )
    {
        var beside = new Trip();
        var baselines = PieceStore.Baselines(beside, open.Piece, open.Seen);
        var held = Holding.Newest(beside, open.Piece);
        var earlier = InspectionStore.Earlier(beside, open.Piece);
        var replaced = InspectionStore.Replaced(beside, open.Piece);
        var leave = PeopleStore.Authorisations(beside, session.Stamp.Actor.Id);
        var corrected = open.Corrects is { } wrongId ? CorrectionStore.Find(beside, wrongId) : null;
        if (await session.LockAsync(open.Piece, beside).ConfigureAwait(false) is not { } piece)
            return Refusals.NoSuchPiece;
        var wrong = corrected?.Value;
        var answers = answersOf(piece, session.Site);
        var facts = new SigningFacts
        {
            Piece = piece,
            Site = session.Site,
            Kind = open.Kind,
            Answers = answers,
            Last = wrong is not null
                ? SigningFacts.NothingRead
                : LastReadings.Of(earlier.Value, replaced.Value, answers, open.OfferedBy ?? session.Stamp.Actor.Id),
            Baselines = baselines.Value.ToDictionary(b => b.Key, b => b.Value.Figure),
            Held = held.Value,
            Authorisations = leave.Value,
            OfferedBy = open.OfferedBy,
            OfferedFor = open.OfferedFor,
            Corrects = wrong is null
                ? null
                : new(wrong.FactsAt(session.Site), wrong.NextBy, wrong.IsSuperseded, wrong.OpenHold),
        };
        var signature = InspectionSigning.Sign(facts, signing, session.By);
        if (!signature.Ok)
            return signature.Refusal;
        var outcome = signature.Value;
        var written = Written.Of(session, open, facts, outcome, wrong, signing.Care);
        await InsertAsync(session, open, piece, outcome, written, wrong).ConfigureAwait(false);
        if (wrong is not null)
            await CorrectionStore.SupersedeAsync(session, wrong.Id, open.Id, open.CorrectionWhy!).ConfigureAwait(false);
        var photos = !open.IsDraft
            ? []
            : await session
                .ReadAsync(
                    """
                    insert into inspection_photo (inspection_id, part, criterion, attachment_id)
                    select draft_id, part, criterion, attachment_id from draft_photo where draft_id = $1
                    returning attachment_id
                    """,
                    r => r.GetGuid(0),
                    open.Id
                )
                .ConfigureAwait(false);
        if (outcome.Hold is { } hold)
            await session.HoldAsync(piece.Id, hold, inspection: open.Id).ConfigureAwait(false);
        await session.DeriveAsync(piece, outcome.State).ConfigureAwait(false);
        await session
            .LedgerAsync(
                new InspectionSigned(
                    open.Id,
                    outcome.InspectedOn,
                    Catalogue.Version,
                    JsonSerializer.SerializeToElement(written.WorkedTo, JsonSerializerOptions.Web),
                    JsonDocument.Parse(written.CaseDocument).RootElement,
                    JsonDocument.Parse(written.VerdictDocument).RootElement,
                    Code.Of(outcome.SignedAs),
                    outcome.Stricter,
                    open.OfferedBy,
                    outcome.NextBy,
                    written.Instruments,
                    written.Notes,
                    JsonSerializer.SerializeToElement(written.Pins, JsonSerializerOptions.Web),
                    photos,
                    wrong?.Id,
                    wrong is null ? null : open.CorrectionWhy
                )
                {
                    Own = written.OwnDocument is { } own ? JsonDocument.Parse(own).RootElement : null,
                    Hands = outcome.Hands.Count > 0 ? outcome.Hands : null,
                },
                piece.Mark
            )
            .ConfigureAwait(false);
        return null;
    }

    /// <summary>A signed inspection as it is written down.</summary>
    private sealed record Written(
        string CaseDocument,
        string VerdictDocument,
        IReadOnlyDictionary<string, string> Notes,
        IReadOnlyDictionary<string, Pin> Pins,
        IReadOnlyList<string> Instruments,
        WorkedTo WorkedTo,
        int? Minutes,
        int Parts
    )
    {
        /// <summary>What the site asked of its own; null: nothing.</summary>
        public string? OwnDocument { get; init; }

        public static Written Of(
            Session session,
            OpenDraft open,
            SigningFacts facts,
            SigningOutcome outcome,
            Wrong? wrong,
            IReadOnlyList<string> care
        )
        {
            var notes = facts.Notes.ToDictionary();
            if (Care.Words(facts.Piece.Gear.Family, care) is { } cared)
                notes["care"] = cared;
            var site = session.Site;
            var instruments = facts
                .Given.Select(a => a.Instrument)
                .OfType<Instrument>()
                .Distinct()
                .Select(i => $"{i.Name}, +/- {i.Uncertainty}, calibrated to {i.CalibrationDue:yyyy-MM-dd}");
            return new(
                CaseWriter.Write(outcome.Case),
                VerdictWriter.Write(outcome.Verdict),
                notes,
                facts
                    .Answers.Where(a => a.Pin is not null)
                    .ToDictionary(a => $"{a.Part} {a.Criterion}", a => a.Pin!.Value),
                [.. (wrong?.Instruments ?? []).Concat(instruments).Distinct()],
                new(
                    site.WatchShare,
                    site.Books.Where(b => site.Editions.ContainsKey(b.Id))
                        .ToDictionary(b => b.Id, b => site.Editions[b.Id])
                ),
                wrong is null ? MinutesOf(open, [.. facts.Given]) : null,
                facts.Given.Select(a => a.Part).Distinct().Count()
            )
            {
                OwnDocument = Core.Formats.OwnDocument.Write(outcome.Case, outcome.Verdict),
            };
        }

        /// <summary>
        /// Minutes from opening the draft to the last answer; null for a look made in one press, and where the work was
        /// spread over more than a day.
        /// </summary>
        private static int? MinutesOf(OpenDraft open, IReadOnlyList<DraftAnswer> given)
        {
            if (given.Count == 0 || !open.IsDraft)
                return null;
            var taken = given.Max(a => a.SavedAt) - open.StartedAt;
            return taken > TimeSpan.FromDays(1) ? null : (int)Math.Ceiling(taken.TotalMinutes);
        }
    }

    private static Task InsertAsync(
        Session session,
        OpenDraft open,
        Piece piece,
        SigningOutcome outcome,
        Written written,
        Wrong? wrong
    ) =>
        session.WriteAsync(
            """
            insert into inspection
              (id, piece_id, kind, inspected_on, signed_at, signed_by, verdict, complete, catalogue_version, case_document, verdict_document,
               notes, worked_to, made_by, stricter, next_by, instruments, minutes, parts_touched, pins, seen_at, seen_seq,
               own_document, answer_hands)
            values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12::jsonb, $13::jsonb, $14, $15, $16, $17::jsonb, $18, $19, $20::jsonb, $21, $22, $23, $24::jsonb)
            """,
            open.Id,
            piece.Id,
            Code.Of(open.Kind),
            outcome.InspectedOn,
            session.Stamp.At,
            session.Stamp.Actor.Id,
            Code.Of(outcome.SignedAs),
            outcome.Verdict.Complete,
            Catalogue.Version,
            written.CaseDocument,
            written.VerdictDocument,
            JsonSerializer.Serialize(written.Notes),
            JsonSerializer.Serialize(written.WorkedTo),
            open.OfferedBy,
            outcome.Stricter,
            outcome.NextBy,
            JsonSerializer.Serialize(written.Instruments),
            written.Minutes,
            written.Parts,
            JsonSerializer.Serialize(written.Pins),
            wrong?.CountsFrom,
            wrong?.Order.Number,
            written.OwnDocument,
            JsonSerializer.Serialize(outcome.Hands)
        );

    /// <summary>
    /// A trainee signs for countersignature: the draft waits for somebody who may sign. What it finds against the piece
    /// stops it at once.
    /// </summary>
    public Task<Checked<Recorded>> OfferAsync(
        Guid draft,
        SignatureRead signing,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var open = await LockAsync(session, draft, signing.Version).ConfigureAwait(false);
                if (!open.Ok)
                    return open.Refusal;
                var beside = new Trip();
                var answers = InspectionStore.Answers(beside, draft);
                var baselines = PieceStore.Baselines(beside, open.Value.Piece, open.Value.Seen);
                var earlier = InspectionStore.Earlier(beside, open.Value.Piece);
                var replaced = InspectionStore.Replaced(beside, open.Value.Piece);
                if (await session.LockAsync(open.Value.Piece, beside).ConfigureAwait(false) is not { } piece)
                    return Refusals.NoSuchPiece;
                var facts = new SigningFacts
                {
                    Piece = piece,
                    Site = session.Site,
                    Kind = open.Value.Kind,
                    Answers = answers.Value,
                    Baselines = baselines.Value.ToDictionary(b => b.Key, b => b.Value.Figure),
                    OfferedBy = open.Value.OfferedBy,
                    Last = LastReadings.Of(earlier.Value, replaced.Value, answers.Value, stamp.Actor.Id),
                };
                var offered = InspectionSigning.Offer(facts, signing, session.By);
                if (!offered.Ok)
                    return offered.Refusal;
                await session
                    .WriteAsync(
                        """
                        update draft
                        set offered_by = $2, offered_at = $3, inspected_on = $4, remark = null, remark_by = null, version = version + 1
                        where id = $1
                        """,
                        draft,
                        stamp.Actor.Id,
                        session.Stamp.At,
                        offered.Value.InspectedOn
                    )
                    .ConfigureAwait(false);
                if (offered.Value.Hold is { } hold)
                    await session.HoldAsync(piece.Id, hold).ConfigureAwait(false);
                await session.DeriveAsync(piece, offered.Value.State).ConfigureAwait(false);
                await session
                    .LedgerAsync(
                        new InspectionOffered(draft, offered.Value.InspectedOn, Code.Of(offered.Value.SignedAs)),
                        piece.Mark
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
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var open = await LockAsync(session, draft, version).ConfigureAwait(false);
                if (!open.Ok)
                    return open.Refusal;
                var said = InspectionSigning.HandBack(open.Value.OfferedBy, remark, session.By);
                if (!said.Ok)
                    return said.Refusal;
                await session
                    .WriteAsync(
                        """
                        update draft set offered_by = null, offered_at = null, remark = $2, remark_by = $3, version = version + 1
                        where id = $1
                        """,
                        draft,
                        said.Value,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                var mark = await session
                    .ReadAsync("select mark from piece where id = $1", r => r.GetString(0), open.Value.Piece)
                    .ConfigureAwait(false);
                await session.LedgerAsync(new InspectionHandedBack(draft, said.Value), mark[0]).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>The draft, locked until the transaction ends, as it was read.</summary>
    private static async Task<Checked<OpenDraft>> LockAsync(Session session, Guid draft, int version)
    {
        var open = await session
            .ReadAsync(
                """
                select d.piece_id, d.kind, d.version, d.offered_by, d.inspected_on, d.started_at, d.corrects, d.correction_why, c.counts_seq
                from draft d left join inspection c on c.id = d.corrects
                where d.id = $1
                for update of d
                """,
                r => new OpenDraft(
                    draft,
                    r.Get<Guid>("piece_id"),
                    Code.Parse<InspectionKind>(r.Get<string>("kind")),
                    r.Get<DateTimeOffset>("started_at")
                )
                {
                    Version = r.Get<int>("version"),
                    OfferedBy = r.ValueOrNull<Guid>("offered_by"),
                    OfferedFor = r.ValueOrNull<DateOnly>("inspected_on"),
                    Corrects = r.ValueOrNull<Guid>("corrects"),
                    CorrectionWhy = r.TextOrNull("correction_why"),
                    Seen = r.ValueOrNull<long>("counts_seq") is { } seen ? new FactOrder(seen) : null,
                },
                draft
            )
            .ConfigureAwait(false);
        return open.Count == 0 ? Refusals.DraftGone
            : open[0].Version != version ? Refusals.DraftChanged
            : open[0];
    }
}
