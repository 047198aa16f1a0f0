using System.Text.Json;
using Keralith.Core;
using Keralith.Core.Criteria;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.Markings;
using Keralith.Core.People;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>An answer kept in a draft.</summary>
public sealed record DraftAnswer(string Part, string Criterion, AnswerEntry Entry, string? Note, string SavedBy, DateTimeOffset SavedAt);

/// <summary>An inspection under way.</summary>
public sealed record Draft(Guid Id, Guid Piece, string Mark, InspectionKind Kind, string StartedBy, DateTimeOffset StartedAt, string SavedBy, DateTimeOffset SavedAt, int Version, int Answers);

/// <summary>A signed inspection as listed.</summary>
public sealed record InspectionRow(Guid Id, Guid Piece, InspectionKind Kind, DateOnly InspectedOn, DateTimeOffset SignedAt, string SignedBy, VerdictKind Verdict, bool Complete, string CatalogueVersion, string CaseDocument, string VerdictDocument, string Notes, WorkedTo WorkedTo);

/// <summary>What an inspection was judged by beside its case.</summary>
/// <param name="WatchShare">The share of an allowance from which a piece was watched; null in the oldest records.</param>
/// <param name="Editions">Edition years of the books, where the site said one; null in the oldest records.</param>
public sealed record WorkedTo(decimal? WatchShare, IReadOnlyDictionary<string, int>? Editions);

/// <summary>Inspections: drafts kept on every answer, and what was signed.</summary>
public sealed class InspectionStore(Database database, SiteStore sites)
{
    private const string DraftColumns = """
        select d.id, d.piece_id, p.mark, d.kind, a.name as started_by, d.started_at, b.name as saved_by, d.saved_at, d.version,
               (select count(*)::int from draft_answer w where w.draft_id = d.id) as answers
        from draft d join piece p on p.id = d.piece_id join person a on a.id = d.started_by join person b on b.id = d.saved_by
        """;

    private const string SignedColumns = """
        select i.id, i.piece_id, i.kind, i.inspected_on, i.signed_at, w.name as signed_by, i.verdict, i.complete, i.catalogue_version, i.case_document, i.verdict_document, i.notes::text as notes, i.worked_to::text as worked_to
        from inspection i join person w on w.id = i.signed_by
        """;

    private readonly Recorder _recorder = new(database);

    public Task<Draft?> DraftAsync(Guid id, CancellationToken cancel) => database.Command($"{DraftColumns} where d.id = $1").Positional(id).FirstAsync(DraftFrom, cancel);

    /// <summary>Open drafts, newest first; of one person, one piece, or all.</summary>
    public Task<List<Draft>> DraftsAsync(Guid? person, Guid? piece, CancellationToken cancel) => database.Command($"""
        {DraftColumns}
        where ($1::uuid is null or d.saved_by = $1 or d.started_by = $1) and ($2::uuid is null or d.piece_id = $2)
        order by d.saved_at desc limit 50
        """).Positional(person, piece).ListAsync(DraftFrom, cancel);

    public Task<List<DraftAnswer>> AnswersAsync(Guid draft, CancellationToken cancel) => database.Command("""
        select a.part, a.criterion, a.answer, a.value, a.shortest, a.uncertainty, a.note, w.name, a.saved_at
        from draft_answer a join person w on w.id = a.saved_by where a.draft_id = $1
        """).Positional(draft).ListAsync(Answer, cancel);

    /// <summary>Signed inspections of a piece, newest first.</summary>
    public Task<List<InspectionRow>> SignedAsync(Guid piece, CancellationToken cancel) =>
        database.Command($"{SignedColumns} where i.piece_id = $1 order by i.signed_at desc, i.id").Positional(piece).ListAsync(Signed, cancel);

    public Task<InspectionRow?> FindSignedAsync(Guid id, CancellationToken cancel) =>
        database.Command($"{SignedColumns} where i.id = $1").Positional(id).FirstAsync(Signed, cancel);

    /// <summary>Opens a draft, or the one already open of that kind: work goes on where it was left.</summary>
    /// <returns>The draft's id, or why none can be opened.</returns>
    public async Task<Checked<Guid>> OpenAsync(PieceRow piece, InspectionKind kind, Stamp stamp, CancellationToken cancel)
    {
        if (piece.State.IsRetired()) return new Refusal("This piece is retired; nothing more can be recorded on it.");
        kind = PieceLife.KindDue(piece.State, piece.PeriodicDue is not null, kind);
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        var opened = await transaction.Command("""
            insert into draft (id, piece_id, kind, started_by, started_at, saved_by, saved_at) values ($1, $2, $3, $4, $5, $4, $5)
            on conflict (piece_id, kind) do nothing
            """).Positional(stamp.Submission, piece.Id, Words.Code(kind), stamp.Actor.Id, stamp.At).RunAsync(cancel).ConfigureAwait(false);
        if (opened == 1)
        {
            await SeedTagAsync(transaction, piece, await sites.GetAsync(cancel).ConfigureAwait(false), kind, stamp, cancel).ConfigureAwait(false);
            await transaction.CommitAsync(cancel).ConfigureAwait(false);
            return stamp.Submission;
        }

        var open = await transaction.Command("select id from draft where piece_id = $1 and kind = $2").Positional(piece.Id, Words.Code(kind)).ListAsync(r => r.GetGuid(0), cancel).ConfigureAwait(false);
        return open[0];
    }

    /// <summary>Keeps answers in the draft. Each must have been read as an answer before; one without answer, figure or note is taken back.</summary>
    /// <returns>The draft's new version, or why it could not be kept.</returns>
    public async Task<Checked<int>> SaveAsync(Guid draft, IReadOnlyCollection<DraftAnswer> answers, Actor actor, DateTimeOffset at, CancellationToken cancel)
    {
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        var version = await transaction.Command("update draft set saved_by = $2, saved_at = $3, version = version + 1 where id = $1 returning version")
            .Positional(draft, actor.Id, at).ListAsync(r => r.GetInt32(0), cancel).ConfigureAwait(false);
        if (version.Count == 0) return new Refusal("This inspection is signed or was thrown away; it takes no more answers.");
        await using var batch = new NpgsqlBatch(connection, transaction);
        foreach (var answer in answers)
        {
            if (answer is { Entry: { Answer: null, Value: null }, Note: null })
            {
                batch.BatchCommands.Add(new NpgsqlBatchCommand("delete from draft_answer where draft_id = $1 and part = $2 and criterion = $3")
                    .Positional(draft, answer.Part, answer.Criterion));
                continue;
            }

            batch.BatchCommands.Add(new NpgsqlBatchCommand("""
                insert into draft_answer (draft_id, part, criterion, answer, value, shortest, uncertainty, note, saved_by, saved_at)
                values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
                on conflict (draft_id, part, criterion) do update
                  set answer = excluded.answer, value = excluded.value, shortest = excluded.shortest, uncertainty = excluded.uncertainty, note = excluded.note,
                      saved_by = excluded.saved_by, saved_at = excluded.saved_at
                """)
                .Positional(draft, answer.Part, answer.Criterion, answer.Entry.Answer, answer.Entry.Value, answer.Entry.Shortest, answer.Entry.Uncertainty, answer.Note, actor.Id, at));
        }

        if (batch.BatchCommands.Count > 0) await batch.ExecuteNonQueryAsync(cancel).ConfigureAwait(false);
        await transaction.CommitAsync(cancel).ConfigureAwait(false);
        return version[0];
    }

    /// <summary>The case of a draft: the gear, the site's books, and the answers with their baselines.</summary>
    public static Case CaseOf(PieceRow piece, InspectionKind kind, Site site, IEnumerable<DraftAnswer> answers, IReadOnlyDictionary<BaselineKey, BaselineRow> baselines)
    {
        var given = answers.ToDictionary(a => (a.Part, a.Criterion));
        var read = new List<Answer>();
        var (gear, tag) = (piece.GearAt(site), piece.TagAt(site));
        var placement = Catalogue.PlacementOf(gear, site.Books);
        foreach (var part in placement.Parts)
        {
            foreach (var criterion in part.Criteria)
            {
                if (!given.TryGetValue((part.Path, criterion.Id), out var answer)) continue;
                var response = answer.Entry.Read(criterion, baselines.GetValueOrDefault(new(part.Path, criterion.Id))?.Figure);
                if (!response.Ok) continue;
                var value = response.Value is Chosen chosen ? new Chosen(tag.AtBest(criterion.Id, chosen.Found)) : response.Value;
                read.Add(new(criterion, part.Path, value));
            }
        }

        // The record names the limits that bear on this gear, and no others.
        var limits = site.LimitsFor(piece.Maker, piece.Model).Where(l => placement.Questions.Any(q => q.Criterion == l.Criterion)).ToList();
        return new(site.Books, kind, gear, limits, read);
    }

    /// <summary>Signs a draft: judges it as it stands, keeps case and verdict, and puts what fails in the cage.</summary>
    /// <param name="draft">The draft; its id becomes the record's.</param>
    /// <param name="version">The version of the draft that was read before signing.</param>
    /// <param name="inspectedOn">The day it was made.</param>
    public Task<Checked<Recorded>> SignAsync(Guid draft, int version, DateOnly inspectedOn, Stamp stamp, CancellationToken cancel) => _recorder.RecordAsync(
        stamp with { Submission = draft },
        async transaction =>
        {
            var open = await transaction.Command("select piece_id, kind, version from draft where id = $1 for update").Positional(draft)
                .ListAsync(r => (Piece: r.Get<Guid>("piece_id"), Kind: Words.Parse<InspectionKind>(r.Get<string>("kind"), Words.Code), Version: r.Get<int>("version")), cancel).ConfigureAwait(false);
            if (open.Count == 0) return "This draft was thrown away.";
            if (open[0].Version != version) return "Answers were changed since you read the verdict. Nothing was signed: read it again, then sign.";
            var answers = await transaction.Command("""
                select a.part, a.criterion, a.answer, a.value, a.shortest, a.uncertainty, a.note, w.name, a.saved_at
                from draft_answer a join person w on w.id = a.saved_by where a.draft_id = $1
                """).Positional(draft).ListAsync(Answer, cancel).ConfigureAwait(false);
            var refusal = await RecordAsync(transaction, draft, open[0].Piece, open[0].Kind, (_, _) => answers, inspectedOn, stamp, cancel).ConfigureAwait(false);
            if (refusal is null) await transaction.Command("delete from draft where id = $1").Positional(draft).RunAsync(cancel).ConfigureAwait(false);
            return refusal;
        },
        cancel);

    /// <summary>Signs the look before use of a piece with no fault on it: everything a frequent check asks, answered "no fault".</summary>
    public Task<Checked<Recorded>> SignCleanCheckAsync(PieceRow piece, DateOnly inspectedOn, Stamp stamp, CancellationToken cancel) => _recorder.RecordAsync(
        stamp,
        transaction => RecordAsync(
            transaction, stamp.Submission, piece.Id, InspectionKind.Frequent,
            (row, site) => Judge.MissingAnswers(new(site.Books, InspectionKind.Frequent, row.GearAt(site), [], []))
                .Where(m => m.Criterion.IsAnswerChosen)
                .Select(m => new DraftAnswer(m.Part, m.Criterion.Id, new(Words.Code(Found.No)), null, stamp.Actor.Name, stamp.At)).ToList(),
            inspectedOn, stamp, cancel),
        cancel);

    /// <summary>Judges the answers, keeps case and verdict, puts what fails in the cage, derives the piece and appends to the ledger.</summary>
    private async Task<string?> RecordAsync(
        NpgsqlTransaction transaction, Guid id, Guid pieceId, InspectionKind kind, Func<PieceRow, Site, IReadOnlyList<DraftAnswer>> answersOf, DateOnly inspectedOn, Stamp stamp, CancellationToken cancel)
    {
        var right = kind is InspectionKind.Frequent or InspectionKind.Return ? Right.CheckFrequent : Right.SignInspection;
        if (!stamp.Actor.Role.May(right)) return "Your role may draft this inspection, not sign it. Pass the draft to an inspector: it stays in the tray.";
        if (inspectedOn > DateOnly.FromDateTime(stamp.At.UtcDateTime).AddDays(1)) return "The day of the inspection lies in the future.";
        if (await Recorder.LockAsync(transaction, pieceId, cancel).ConfigureAwait(false) is not { } piece) return "There is no such piece.";
        var site = await sites.GetAsync(cancel).ConfigureAwait(false);
        var answers = answersOf(piece, site);
        var baselines = await PieceStore.BaselinesAsync(transaction.Command(string.Empty), piece.Id, cancel).ConfigureAwait(false);
        var @case = CaseOf(piece, kind, site, answers, baselines);
        var given = answers.Where(a => a.Entry is not { Answer: null, Value: null }).ToList();
        if (@case.Answers.Count != given.Count) return "Some answers belong to parts or questions this piece no longer has: it was changed since. Throw the draft away and look at all of it again.";
        var verdict = Judge.Of(@case, site.WatchShare);
        if (verdict.Kind is VerdictKind.Fit or VerdictKind.Watch && Freshness.Refusal(given.ConvertAll(a => a.SavedAt), await NewestHoldAsync(transaction, piece.Id, cancel).ConfigureAwait(false), stamp.At) is { } stale) return stale;
        var state = PieceLife.AfterInspection(piece.State, kind, verdict.Kind, piece.OpenHolds.Count);
        if (!state.Ok) return state.Fault;

        var notes = answers.Where(a => !string.IsNullOrWhiteSpace(a.Note)).ToDictionary(a => $"{a.Part} {a.Criterion}", a => a.Note!);
        var caseDocument = CaseWriter.Write(@case);
        var verdictDocument = VerdictWriter.Write(verdict);
        var workedTo = new WorkedTo(site.WatchShare, site.Books.Where(b => site.Editions.ContainsKey(b.Id)).ToDictionary(b => b.Id, b => site.Editions[b.Id]));
        await transaction.Command("""
            insert into inspection (id, piece_id, kind, inspected_on, signed_at, signed_by, verdict, complete, catalogue_version, case_document, verdict_document, notes, worked_to)
            values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12::jsonb, $13::jsonb)
            """)
            .Positional(id, piece.Id, Words.Code(kind), inspectedOn, stamp.At, stamp.Actor.Id, Words.Code(verdict.Kind), verdict.Complete, Catalogue.Version, caseDocument, verdictDocument, JsonSerializer.Serialize(notes), JsonSerializer.Serialize(workedTo))
            .RunAsync(cancel).ConfigureAwait(false);
        if (HoldRules.CauseOf(verdict) is { } cause)
        {
            await CustodyStore.InsertHoldAsync(transaction, Guid.NewGuid(), piece.Id, cause, Reason(@case, verdict), id, stamp, cancel).ConfigureAwait(false);
        }

        await Recorder.DeriveAsync(transaction, site, piece, state.Value, stamp.At, cancel).ConfigureAwait(false);
        using var caseJson = JsonDocument.Parse(caseDocument);
        using var verdictJson = JsonDocument.Parse(verdictDocument);
        await LedgerStore.AppendAsync(
            transaction, stamp, "inspection.signed", piece.Mark,
            new { inspection = id, inspectedOn, catalogue = Catalogue.Version, workedTo, @case = caseJson.RootElement, verdict = verdictJson.RootElement, notes },
            cancel).ConfigureAwait(false);
        return null;
    }

    /// <summary>Throws a draft away, with all its answers.</summary>
    public Task<int> DiscardAsync(Guid draft, CancellationToken cancel) => database.Command("delete from draft where id = $1").Positional(draft).RunAsync(cancel);

    private static async Task<DateTimeOffset?> NewestHoldAsync(NpgsqlTransaction transaction, Guid piece, CancellationToken cancel)
    {
        var newest = await transaction.Command("select case when max(h.placed_at) is not null then greatest(max(h.placed_at), (select max(t.at) from retag t where t.piece_id = $1)) end as at from hold h left join release r on r.hold_id = h.id where h.piece_id = $1 and r.hold_id is null")
            .Positional(piece).ListAsync(r => r.ValueOrNull<DateTimeOffset>("at"), cancel).ConfigureAwait(false);
        return newest[0];
    }

    /// <summary>The findings that put it in the cage, in one line.</summary>
    private static string Reason(Case @case, Verdict verdict)
    {
        var names = @case.Parts.ToDictionary(p => p.Path, p => p.Name.ToLowerInvariant());
        var gravest = verdict.Findings.Max(f => f.Outcome);
        var worst = verdict.Findings.Where(f => f.Outcome == gravest).ToList();
        var first = string.Join("; ", worst.Take(2).Select(f => $"{f.Criterion.Title}: {names[f.Part]}"));
        return worst.Count > 2 ? $"{first}; and {worst.Count - 2} more" : first;
    }

    /// <summary>Whether the marking is complete is computed from the tag as transcribed: the draft begins with that answer.</summary>
    private static async Task SeedTagAsync(NpgsqlTransaction transaction, PieceRow piece, Site site, InspectionKind kind, Stamp stamp, CancellationToken cancel)
    {
        if (kind is InspectionKind.Frequent or InspectionKind.Return) return;
        var tag = piece.TagAt(site);
        var found = tag.AtBest(TagVerdict.Complete, Found.No);
        var part = Catalogue.Parts(piece.Gear, [RuleBookShelf.Asme])[0].Path;
        await transaction.Command("insert into draft_answer (draft_id, part, criterion, answer, note, saved_by, saved_at) values ($1, $2, $3, $4, $5, $6, $7)")
            .Positional(stamp.Submission, part, TagVerdict.Complete, Words.Code(found), found == Found.No ? null : string.Join(' ', tag.Against), stamp.Actor.Id, stamp.At)
            .RunAsync(cancel).ConfigureAwait(false);
    }

    private static DraftAnswer Answer(NpgsqlDataReader r) => new(
        r.Get<string>("part"),
        r.Get<string>("criterion"),
        new(r.TextOrNull("answer"), r.TextOrNull("value"), r.TextOrNull("shortest"), r.TextOrNull("uncertainty")),
        r.TextOrNull("note"),
        r.Get<string>("name"),
        r.Get<DateTimeOffset>("saved_at"));

    private static Draft DraftFrom(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), r.Get<Guid>("piece_id"), r.Get<string>("mark"), Words.Parse<InspectionKind>(r.Get<string>("kind"), Words.Code),
        r.Get<string>("started_by"), r.Get<DateTimeOffset>("started_at"), r.Get<string>("saved_by"), r.Get<DateTimeOffset>("saved_at"), r.Get<int>("version"), r.Get<int>("answers"));

    private static InspectionRow Signed(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), r.Get<Guid>("piece_id"), Words.Parse<InspectionKind>(r.Get<string>("kind"), Words.Code), r.Get<DateOnly>("inspected_on"), r.Get<DateTimeOffset>("signed_at"),
        r.Get<string>("signed_by"), Words.Parse<VerdictKind>(r.Get<string>("verdict"), Words.Code), r.Get<bool>("complete"), r.Get<string>("catalogue_version"),
        r.Get<string>("case_document"), r.Get<string>("verdict_document"), r.Get<string>("notes"), JsonSerializer.Deserialize<WorkedTo>(r.Get<string>("worked_to"))!);
}
