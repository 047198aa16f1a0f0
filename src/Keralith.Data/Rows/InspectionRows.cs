using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.Signing;
using Npgsql;

namespace Keralith.Data;

/// <summary>Drafts, their answers and signed inspections as the database keeps them.</summary>
internal static class InspectionRows
{
    public const string DraftColumns = """
        select d.id, d.piece_id, p.mark, d.kind, a.name as started_by, d.started_at, b.name as saved_by, d.saved_at, d.version,
               (select count(*)::int from draft_answer w where w.draft_id = d.id) as answers, d.offered_at, d.inspected_on, d.remark,
               (select o.name from person o where o.id = d.offered_by) as offered_by, (select o.name from person o where o.id = d.remark_by) as remark_by,
               d.corrects, d.correction_why, c.verdict as corrects_verdict, c.inspected_on as corrects_day, c.counts_seq as corrects_seen,
               (select w.name from person w where w.id = c.signed_by) as corrects_by
        from draft d
        join piece p on p.id = d.piece_id
        join person a on a.id = d.started_by
        join person b on b.id = d.saved_by
        left join inspection c on c.id = d.corrects
        """;

    /// <param name="verdict">The judgement in full, or null.</param>
    public static string SignedColumns(string verdict) =>
        $"""
            select i.id, i.piece_id, i.kind, i.inspected_on, i.signed_at, w.name as signed_by, i.verdict, i.complete, i.catalogue_version,
                   i.case_document, i.own_document, {verdict} as verdict_document, i.notes::text as notes, i.worked_to::text as worked_to,
                   (select m.name from person m where m.id = i.made_by) as made_by,
                   array_remove(array[i.signed_by, i.made_by], null) || array(select k::uuid from jsonb_object_keys(i.answer_hands) k) as hands,
                   (select jsonb_object_agg(h.name, i.answer_hands->h.id::text) from person h where i.answer_hands ? h.id::text)::text as other_hands,
                   i.stricter, i.next_by, i.instruments::text as instruments, i.minutes, i.parts_touched, i.pins::text as pins, i.counts_from,
                   f.inspection_id as corrects, f.why as corrects_why, s.became, s.why as superseded_why, s.at as superseded_at,
                   (select m.name from person m where m.id = s.by_person) as superseded_by
            from inspection i
            join person w on w.id = i.signed_by
            left join supersession s on s.inspection_id = i.id
            left join supersession f on f.became = i.id
            """;

    public static DraftAnswer Answer(NpgsqlDataReader r) =>
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
            Hand = r.Get<Guid>("saved_by"),
            Instrument = r.TextOrNull("instrument") is { } name
                ? new(
                    name,
                    Core.Quantities.Length.Parse(r.Get<string>("instrument_uncertainty")),
                    r.Get<DateOnly>("calibration_due")
                )
                : null,
            Pin = r.ValueOrNull<decimal>("at_x") is { } x ? new(x, r.Get<decimal>("at_y")) : null,
        };

    public static Draft Draft(NpgsqlDataReader r) =>
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

    public static InspectionRow Signed(NpgsqlDataReader r) =>
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
            OtherHands = r.TextOrNull("other_hands") is { } others
                ? JsonSerializer.Deserialize<Dictionary<string, string[]>>(others)!
                : [],
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
