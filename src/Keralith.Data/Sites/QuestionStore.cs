using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>What sites ask beside the books: set, withdrawn, and all that ever was.</summary>
public sealed class QuestionStore(Database database)
{
    private const string Columns = """
        select q.id, q.site_id, q.family, q.part, q.maker, q.model, q.kind, q.asked_in, q.on_fault, q.title, q.question, q.look, q.source,
          q.reason, q.set_at, w.name as set_by, d.at as withdrawn_at, v.name as withdrawn_by, d.reason as withdrawn_why
        from own_question q
        join person w on w.id = q.set_by
        left join question_withdrawal d on d.question_id = q.id
        left join person v on v.id = d.by_person
        """;

    /// <summary>The questions in force, with the number of the site that asks each, on a trip made with other questions.</summary>
    public static Asked<List<(int Site, QuestionRow Row)>> InForce(Trip trip) =>
        trip.All(new NpgsqlBatchCommand($"{Columns} where d.question_id is null order by q.family, q.id"), From);

    /// <summary>Every question a site ever asked, those in force first.</summary>
    public Task<List<QuestionRow>> AllAsync(int site, CancellationToken cancel) =>
        database
            .Command($"{Columns} where q.site_id = $1 order by d.question_id is not null, q.family, q.id desc")
            .Positional(site)
            .ListAsync(r => From(r).Row, cancel);

    /// <summary>Asks a question from now on. A record signed before stays as it was judged.</summary>
    public Task<Checked<Recorded>> SetAsync(EnteredQuestion given, Stamp stamp, CancellationToken cancel) =>
        Session.RunAtSiteAsync(
            database,
            given.Site,
            stamp,
            async session =>
            {
                var read = OwnQuestionActs.Set(given, session.Site.Questions.Count, session.By);
                if (!read.Ok)
                    return read.Refusal;
                var (asked, criterion) = (read.Value.Question, read.Value.Question.Criterion);
                var kept = await session
                    .ReadAsync(
                        """
                        insert into own_question
                          (site_id, family, part, maker, model, kind, asked_in, on_fault, title, question, look, source, reason, set_at, set_by)
                        values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15)
                        returning id
                        """,
                        r => r.GetInt64(0),
                        given.Site,
                        asked.Family.Code,
                        asked.Part,
                        asked.Maker,
                        asked.Model,
                        Code.Of(criterion.Kind),
                        Code.Of(criterion.AskedIn),
                        Code.Of(criterion.OnFault),
                        criterion.Title,
                        criterion.Question,
                        criterion.Look,
                        criterion.Source.Standard,
                        read.Value.Reason,
                        session.Stamp.At,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                await session
                    .LedgerAsync(
                        new QuestionSet(
                            OwnQuestion.IdOf(kept[0]),
                            asked.Family.Code,
                            asked.Part,
                            asked.Maker,
                            asked.Model,
                            Code.Of(criterion.Kind),
                            Code.Of(criterion.AskedIn),
                            Code.Of(criterion.OnFault),
                            criterion.Title,
                            criterion.Question,
                            criterion.Look,
                            criterion.Source.Standard,
                            read.Value.Reason
                        ),
                        session.Site.Subject
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Asks a question no more; what was answered to it stands as it was answered.</summary>
    /// <param name="site">The number of the site that asks it.</param>
    /// <param name="question">Its id.</param>
    public Task<Checked<Recorded>> WithdrawAsync(
        int site,
        string question,
        string? reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAtSiteAsync(
            database,
            site,
            stamp,
            async session =>
            {
                var row = session.Site.Questions.FirstOrDefault(q => q.Id == question);
                var why = OwnQuestionActs.Withdraw(row, reason, session.By);
                if (!why.Ok)
                    return why.Refusal;
                await session
                    .WriteAsync(
                        "insert into question_withdrawal (question_id, reason, at, by_person) values ($1, $2, $3, $4)",
                        OwnQuestion.NumberOf(question)!.Value,
                        why.Value,
                        session.Stamp.At,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                await session
                    .LedgerAsync(
                        new QuestionWithdrawn(question, row!.Question.Criterion.Title, why.Value),
                        session.Site.Subject
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static (int Site, QuestionRow Row) From(NpgsqlDataReader r) =>
        (
            r.Get<int>("site_id"),
            new(
                new(
                    OwnQuestionActs.CriterionOf(
                        r.Get<long>("id"),
                        Code.Parse<CriterionKind>(r.Get<string>("kind")),
                        Code.Parse<AskedIn>(r.Get<string>("asked_in")),
                        Code.Parse<Outcome>(r.Get<string>("on_fault")),
                        r.Get<string>("title"),
                        r.Get<string>("question"),
                        r.Get<string>("look"),
                        r.Get<string>("source")
                    ),
                    GearFamilies.Find(r.Get<string>("family"))!,
                    r.Get<string>("part"),
                    r.Get<string>("maker"),
                    r.Get<string>("model")
                ),
                r.Get<string>("reason"),
                r.Get<DateTimeOffset>("set_at"),
                r.Get<string>("set_by")
            )
            {
                Withdrawn = r.ValueOrNull<DateTimeOffset>("withdrawn_at") is { } at
                    ? (at, r.Get<string>("withdrawn_by"), r.Get<string>("withdrawn_why"))
                    : null,
            }
        );
}
