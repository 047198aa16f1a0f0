using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>A signed record that is to be corrected or withdrawn.</summary>
/// <param name="CountsFrom">From when it counts; what takes its place counts from then too.</param>
/// <param name="Order">Where it stands among the facts; what takes its place stands there too.</param>
internal sealed record Wrong(
    Guid Id,
    Guid Piece,
    InspectionKind Kind,
    VerdictKind Verdict,
    DateOnly InspectedOn,
    DateTimeOffset CountsFrom,
    FactOrder Order
)
{
    /// <summary>What it was measured with, in words.</summary>
    public IReadOnlyList<string> Instruments { get; init; } = [];

    public DateOnly? NextBy { get; init; }

    /// <summary>Who made it and who signed it.</summary>
    public IReadOnlyList<Guid> Hands { get; init; } = [];

    public bool IsSuperseded { get; init; }

    /// <summary>The cause of the hold it put on, where that is open still.</summary>
    public HoldCause? OpenHold { get; init; }

    /// <summary>It, as the rules of correcting see it: the day it was signed is the site's.</summary>
    public WrongRecord FactsAt(Site site) => new(Kind, Verdict, site.DayOf(CountsFrom));
}

/// <summary>Wrong records: another in their place, or withdrawn. Nothing signed is altered.</summary>
public sealed class CorrectionStore(Database database)
{
    /// <summary>Opens the draft of a correction, begun with the answers of the wrong record; or the one already open.</summary>
    /// <returns>The draft's id, or why none can be opened.</returns>
    public async Task<Checked<Guid>> OpenAsync(
        InspectionRow record,
        Piece piece,
        string? why,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        var draft = Guid.CreateVersion7();

        // The draft's id is recorded when it is signed; opening it goes under one of its own.
        var opened = await Session
            .RunAsync(
                database,
                stamp with
                {
                    Submission = Guid.CreateVersion7(),
                },
                async session =>
                {
                    var may = Withdrawal.Correct(record.Counts, piece.State, why, session.By);
                    if (!may.Ok)
                        return may.Refusal;
                    var begun = await session
                        .WriteAsync(
                            """
                            insert into draft (id, piece_id, kind, started_by, started_at, saved_by, saved_at, corrects, correction_why)
                            values ($1, $2, $3, $4, $5, $4, $5, $6, $7)
                            on conflict (corrects) do nothing
                            """,
                            draft,
                            piece.Id,
                            Code.Of(record.Kind),
                            stamp.Actor.Id,
                            session.Stamp.At,
                            record.Id,
                            may.Value
                        )
                        .ConfigureAwait(false);
                    if (begun == 0)
                    {
                        draft = (
                            await session
                                .ReadAsync("select id from draft where corrects = $1", r => r.GetGuid(0), record.Id)
                                .ConfigureAwait(false)
                        )[0];
                        return null;
                    }

                    await CopyAnswersAsync(session, draft, record, piece).ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return opened.Ok ? draft : opened.Refusal!;
    }

    private static async Task CopyAnswersAsync(Session session, Guid draft, InspectionRow record, Piece piece)
    {
        var trip = new Trip();
        foreach (var answer in AnswersOf(record, piece, session.Site, session.Stamp))
        {
            trip.Do(
                new NpgsqlBatchCommand(
                    """
                    insert into draft_answer
                      (draft_id, part, criterion, answer, value, shortest, uncertainty, note, saved_by, saved_at, at_x, at_y)
                    values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
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
                    answer.Pin?.Y
                )
            );
        }

        trip.Do(
            new NpgsqlBatchCommand(
                """
                insert into draft_photo (draft_id, part, criterion, attachment_id)
                select $1, part, criterion, attachment_id from inspection_photo where inspection_id = $2
                """
            ).Positional(draft, record.Id)
        );
        await session.AskAsync(trip).ConfigureAwait(false);
    }

    /// <summary>
    /// Withdraws a record: it counts for nothing from now on. A full inspection withdrawn puts the piece on hold.
    /// </summary>
    public Task<Checked<Recorded>> WithdrawAsync(Guid record, string? why, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                // Drafts before pieces, as everywhere: whoever signs a correction of it meanwhile is waited for.
                await session
                    .ReadAsync("select 1 from draft where corrects = $1 for update", r => r.GetInt32(0), record)
                    .ConfigureAwait(false);
                if (await session.AskAsync(t => Find(t, record)).ConfigureAwait(false) is not { } found)
                    return Refusals.NoSuchRecord;
                var beside = new Trip();
                var leave = PeopleStore.Authorisations(beside, stamp.Actor.Id);

                // Read again behind the lock: somebody else may have been quicker.
                var wrong = Find(beside, record);
                if (await session.LockAsync(found.Piece, beside).ConfigureAwait(false) is not { } piece)
                    return Refusals.NoSuchPiece;
                var outcome = Withdrawal.Of(
                    new(record, wrong.Value!.FactsAt(session.Site), wrong.Value.InspectedOn, wrong.Value.IsSuperseded)
                    {
                        Hands = wrong.Value.Hands,
                    },
                    piece.Gear.Family,
                    piece.State,
                    why,
                    leave.Value,
                    session.By
                );
                if (!outcome.Ok)
                    return outcome.Refusal;
                await SupersedeAsync(session, record, null, ((InspectionWithdrawn)outcome.Value.Record).Why)
                    .ConfigureAwait(false);
                if (outcome.Value.Hold is { } hold)
                    await session.HoldAsync(piece.Id, hold, inspection: record).ConfigureAwait(false);
                await session.WriteAsync("delete from draft where corrects = $1", record).ConfigureAwait(false);
                await session.DeriveAsync(piece, outcome.Value.State).ConfigureAwait(false);
                await session.LedgerAsync(outcome.Value.Record, piece.Mark).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>A signed record that is to be corrected or withdrawn; null when there is none.</summary>
    internal static Asked<Wrong?> Find(Trip trip, Guid record) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select i.piece_id, i.kind, i.verdict, i.inspected_on, i.counts_from, i.counts_seq, i.instruments::text as instruments, i.next_by,
                  array_remove(array[i.signed_by, i.made_by], null) || array(select k::uuid from jsonb_object_keys(i.answer_hands) k) as hands,
                  exists (select from supersession s where s.inspection_id = i.id) as superseded,
                  (select h.cause from hold h
                   where h.inspection_id = i.id and not exists (select from release r where r.hold_id = h.id)
                   order by h.placed_at limit 1) as open_hold
                from inspection i
                where i.id = $1
                """
            ).Positional(record),
            r => new Wrong(
                record,
                r.Get<Guid>("piece_id"),
                Code.Parse<InspectionKind>(r.Get<string>("kind")),
                Code.Parse<VerdictKind>(r.Get<string>("verdict")),
                r.Get<DateOnly>("inspected_on"),
                r.Get<DateTimeOffset>("counts_from"),
                new(r.Get<long>("counts_seq"))
            )
            {
                Instruments = JsonSerializer.Deserialize<List<string>>(r.Get<string>("instruments"))!,
                NextBy = r.ValueOrNull<DateOnly>("next_by"),
                Hands = r.Get<Guid[]>("hands"),
                IsSuperseded = r.Get<bool>("superseded"),
                OpenHold = r.TextOrNull("open_hold") is { } cause ? Code.Parse<HoldCause>(cause) : null,
            },
            rows => rows.FirstOrDefault()
        );

    internal static Task SupersedeAsync(Session session, Guid wrong, Guid? became, string why) =>
        session.WriteAsync(
            "insert into supersession (inspection_id, became, why, at, by_person) values ($1, $2, $3, $4, $5)",
            wrong,
            became,
            why,
            session.Stamp.At,
            session.Stamp.Actor.Id
        );

    /// <summary>The answers of a record as a draft holds them: those of parts and questions the piece has today.</summary>
    private static IEnumerable<DraftAnswer> AnswersOf(InspectionRow record, Piece piece, Site site, Stamp stamp)
    {
        if (CaseReader.Read(record.CaseDocument).Value is not { } @case)
            return [];
        var notes = JsonSerializer.Deserialize<Dictionary<string, string>>(record.Notes)!;
        var own = site.QuestionsFor(piece.Gear.Family, piece.Maker, piece.Model);
        var placement = Catalogue.PlacementOf(piece.GearAt(site), site.Books).With(own);
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
            })
            .Concat(
                record
                    .Own.Where(o =>
                        o.Answer is not null && placement.Find(o.Part)?.Criteria.Any(c => c.Id == o.Question) == true
                    )
                    .Select(o => new DraftAnswer(
                        o.Part,
                        o.Question,
                        new(o.Answer),
                        notes.GetValueOrDefault($"{o.Part} {o.Question}"),
                        stamp.Actor.Name,
                        stamp.At
                    ))
            );
    }
}
