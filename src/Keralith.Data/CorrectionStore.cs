using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>A signed record that is to be corrected or withdrawn.</summary>
/// <param name="CountsFrom">From when it counts; what takes its place counts from then too.</param>
internal sealed record Wrong(
    Guid Id,
    Guid Piece,
    WrongRecord Facts,
    DateOnly InspectedOn,
    DateTimeOffset CountsFrom,
    IReadOnlyList<string> Instruments,
    DateOnly? NextBy,
    bool IsSuperseded
);

/// <summary>Wrong records: another in their place, or withdrawn. Nothing signed is altered.</summary>
public sealed class CorrectionStore(Database database, SiteStore sites)
{
    internal const string CorrectedAlready =
        "This record was corrected or withdrawn already: look at what stands in its place.";

    private readonly Recorder _recorder = new(database);

    /// <summary>Opens the draft of a correction, begun with the answers of the wrong record; or the one already open.</summary>
    /// <returns>The draft's id, or why none can be opened.</returns>
    public async Task<Checked<Guid>> OpenAsync(
        InspectionRow record,
        PieceRow piece,
        string? why,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        if (!stamp.Actor.Role.May(Right.Draft))
            return new Refusal("Your role does not allow this.");
        if (Correction.RefusalOf(why) is { } refused)
            return new Refusal(refused);
        if (piece.State.IsRetired())
            return new Refusal("This piece is retired; its record stands as it is.");
        if (!record.Counts)
            return new Refusal(CorrectedAlready);
        var site = await sites.GetAsync(cancel).ConfigureAwait(false);
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        var opened = await transaction
            .Command(
                """
                insert into draft (id, piece_id, kind, started_by, started_at, saved_by, saved_at, corrects, correction_why) values ($1, $2, $3, $4, $5, $4, $5, $6, $7)
                on conflict (corrects) do nothing
                """
            )
            .Positional(
                stamp.Submission,
                piece.Id,
                Code.Of(record.Kind),
                stamp.Actor.Id,
                stamp.At,
                record.Id,
                why!.Trim()
            )
            .RunAsync(cancel)
            .ConfigureAwait(false);
        if (opened == 0)
        {
            var open = await transaction
                .Command("select id from draft where corrects = $1")
                .Positional(record.Id)
                .ListAsync(r => r.GetGuid(0), cancel)
                .ConfigureAwait(false);
            return open[0];
        }

        await using var batch = new NpgsqlBatch(connection, transaction);
        foreach (var answer in AnswersOf(record, piece, site, stamp))
        {
            batch.BatchCommands.Add(
                new NpgsqlBatchCommand(
                    """
                    insert into draft_answer (draft_id, part, criterion, answer, value, shortest, uncertainty, note, saved_by, saved_at, at_x, at_y) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
                    """
                ).Positional(
                    stamp.Submission,
                    answer.Part,
                    answer.Criterion,
                    answer.Entry.Answer,
                    answer.Entry.Value,
                    answer.Entry.Shortest,
                    answer.Entry.Uncertainty,
                    answer.Note,
                    stamp.Actor.Id,
                    stamp.At,
                    answer.Pin?.X,
                    answer.Pin?.Y
                )
            );
        }

        batch.BatchCommands.Add(
            new NpgsqlBatchCommand(
                "insert into draft_photo (draft_id, part, criterion, attachment_id) select $1, part, criterion, attachment_id from inspection_photo where inspection_id = $2"
            ).Positional(stamp.Submission, record.Id)
        );
        await batch.ExecuteNonQueryAsync(cancel).ConfigureAwait(false);
        await transaction.CommitAsync(cancel).ConfigureAwait(false);
        return stamp.Submission;
    }

    /// <summary>Withdraws a record: it counts for nothing from now on. A full inspection withdrawn puts the piece on hold.</summary>
    public Task<Checked<Recorded>> WithdrawAsync(Guid record, string? why, Stamp stamp, CancellationToken cancel) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                if (Correction.RefusalOf(why) is { } unsaid)
                    return unsaid;
                if (await FindAsync(transaction, record, cancel).ConfigureAwait(false) is not { } found)
                    return "There is no such record.";

                // Drafts before pieces, as everywhere: whoever signs a correction of it meanwhile is waited for.
                await transaction
                    .Command("select 1 from draft where corrects = $1 for update")
                    .Positional(record)
                    .ListAsync(r => r.GetInt32(0), cancel)
                    .ConfigureAwait(false);
                var beside = new Trip();
                var leave = PeopleStore.Authorisations(beside, stamp.Actor.Id);
                if (
                    await Recorder.LockAsync(transaction, found.Piece, cancel, beside).ConfigureAwait(false)
                    is not { } piece
                )
                    return "There is no such piece.";

                // Read again behind the lock: somebody else may have been quicker.
                var wrong = (await FindAsync(transaction, record, cancel).ConfigureAwait(false))!;
                if (wrong.IsSuperseded)
                    return CorrectedAlready;
                if (piece.State.IsRetired())
                    return "This piece is retired; its record stands as it is.";
                if (Correction.RefusalToWithdraw(wrong.Facts, stamp.Actor.Role) is { } refused)
                    return refused;
                if (
                    Correction.Signs(wrong.Facts.Kind) == Right.SignInspection
                    && Authorisation.RefusalToSign(
                        leave.Value,
                        piece.Gear.Family,
                        DateOnly.FromDateTime(stamp.At.UtcDateTime)
                    )
                        is { } unauthorised
                )
                    return unauthorised;
                var reason = why!.Trim();
                var state = piece.State;
                await SupersedeAsync(transaction, record, null, reason, stamp, cancel).ConfigureAwait(false);
                if (Correction.Holds(wrong.Facts.Kind))
                {
                    var held = PieceLife.AfterHold(piece.State);
                    if (!held.Ok)
                        return held.Fault;
                    state = held.Value;
                    await CustodyStore
                        .InsertHoldAsync(
                            transaction,
                            Guid.NewGuid(),
                            piece.Id,
                            HoldCause.Doubt,
                            $"Its {Code.Of(wrong.Facts.Kind)} inspection of {wrong.InspectedOn:yyyy-MM-dd} was withdrawn: {reason}",
                            record,
                            stamp,
                            cancel
                        )
                        .ConfigureAwait(false);
                }

                await transaction
                    .Command("delete from draft where corrects = $1")
                    .Positional(record)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await Recorder
                    .DeriveAsync(transaction, await sites.GetAsync(cancel).ConfigureAwait(false), piece, state, cancel)
                    .ConfigureAwait(false);
                await LedgerStore
                    .AppendAsync(
                        transaction,
                        stamp,
                        "inspection.withdrawn",
                        piece.Mark,
                        new
                        {
                            inspection = record,
                            inspectedOn = wrong.InspectedOn,
                            verdict = Code.Of(wrong.Facts.Verdict),
                            why = reason,
                        },
                        cancel
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    internal static async Task<Wrong?> FindAsync(NpgsqlTransaction transaction, Guid record, CancellationToken cancel)
    {
        var found = await transaction
            .Command(
                "select i.piece_id, i.kind, i.verdict, i.inspected_on, i.counts_from, i.instruments::text as instruments, i.next_by, exists (select from supersession s where s.inspection_id = i.id) as superseded from inspection i where i.id = $1"
            )
            .Positional(record)
            .ListAsync(
                r => new Wrong(
                    record,
                    r.Get<Guid>("piece_id"),
                    new(
                        Code.Parse<InspectionKind>(r.Get<string>("kind")),
                        Code.Parse<VerdictKind>(r.Get<string>("verdict")),
                        DateOnly.FromDateTime(r.Get<DateTimeOffset>("counts_from").UtcDateTime)
                    ),
                    r.Get<DateOnly>("inspected_on"),
                    r.Get<DateTimeOffset>("counts_from"),
                    JsonSerializer.Deserialize<List<string>>(r.Get<string>("instruments"))!,
                    r.ValueOrNull<DateOnly>("next_by"),
                    r.Get<bool>("superseded")
                ),
                cancel
            )
            .ConfigureAwait(false);
        return found.Count == 0 ? null : found[0];
    }

    internal static Task<int> SupersedeAsync(
        NpgsqlTransaction transaction,
        Guid wrong,
        Guid? became,
        string why,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        transaction
            .Command("insert into supersession (inspection_id, became, why, at, by_person) values ($1, $2, $3, $4, $5)")
            .Positional(wrong, became, why, stamp.At, stamp.Actor.Id)
            .RunAsync(cancel);

    /// <summary>Whether the hold that a wrong record put on is open still, and for the same cause: a correction then puts on no second one.</summary>
    internal static async Task<bool> HoldsStillAsync(
        NpgsqlTransaction transaction,
        Guid wrong,
        HoldCause cause,
        CancellationToken cancel
    ) =>
        (
            await transaction
                .Command(
                    "select 1 from hold h where h.inspection_id = $1 and h.cause = $2 and not exists (select from release r where r.hold_id = h.id)"
                )
                .Positional(wrong, Code.Of(cause))
                .ListAsync(r => r.GetInt32(0), cancel)
                .ConfigureAwait(false)
        ).Count > 0;

    /// <summary>The answers of a record as a draft holds them: those of parts and questions the piece has today.</summary>
    private static IEnumerable<DraftAnswer> AnswersOf(InspectionRow record, PieceRow piece, Site site, Stamp stamp)
    {
        if (CaseReader.Read(record.CaseDocument).Value is not { } @case)
            return [];
        var notes = JsonSerializer.Deserialize<Dictionary<string, string>>(record.Notes)!;
        var placement = Catalogue.PlacementOf(piece.GearAt(site), site.Books);
        return @case
            .Answers.GroupBy(a => (a.Part, a.Criterion))
            .Where(g => placement.IndexOf(g.Key.Criterion, g.Key.Part) >= 0)
            .Select(g =>
            {
                var key = $"{g.Key.Part} {g.Key.Criterion.Id}";
                return new DraftAnswer(
                    g.Key.Part,
                    g.Key.Criterion.Id,
                    AnswerEntry.Of(g.Key.Criterion, g.Select(a => a.Response).ToList()),
                    notes.GetValueOrDefault(key),
                    stamp.Actor.Name,
                    stamp.At
                )
                {
                    Pin = record.Pins.TryGetValue(key, out var pin) ? pin : null,
                };
            });
    }
}
