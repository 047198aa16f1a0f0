using System.Collections.Concurrent;
using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using Npgsql;

namespace Keralith.Data;

/// <summary>Pieces as the database keeps them.</summary>
internal static class PieceRows
{
    /// <summary>Of a kit: its registered members as they stand, found by the marks in its roster.</summary>
    internal const string MembersColumn = """
        case when p.family = 'sling-kit' then array(
          select m.mark || chr(31) || m.state || chr(31) || coalesce(m.periodic_due::text, '') || chr(31)
            || coalesce(m.frequent_due::text, '') || chr(31) || coalesce(m.calibration_due::text, '')
            || chr(31) || coalesce(m.proof_due::text, '') || chr(31) || m.proof_lacks || chr(31) || coalesce(m.details->>'discardOn', '')
            || chr(31) || (m.locked is not null)
          from unnest(string_to_array(p.details->>'members', E'\n')) as line
          join piece m on m.mark = upper(trim(split_part(line, ';', 5)))) end as members
        """;

    internal const string Columns = $$"""
        p.id, p.mark, p.family, p.serial, p.maker, p.model, p.batch, p.attributes::text as attributes, p.details::text as details,
        p.rated_load, p.design_factor, p.rated_for, p.tag_entries, p.tag_read, p.surroundings::text as surroundings,
        p.service_class, p.in_service_since, p.registered_at, p.store_id, s.site_id, s.name as store, p.peg, p.state, p.verdict,
        p.periodic_due, p.frequent_due, p.proof_due, p.proof_lacks, p.calibration_due, p.lot_count, p.season_for,
        p.carried, p.touched, p.locked, p.version,
        (select d.why from distrust d where d.piece_id = p.id) as distrust,
        (select to_char(c.last_periodic, 'YYYY-MM-DD') || chr(31) || c.inspector || chr(31) || c.evidence
         from carried_over c where c.piece_id = p.id) as carried_over,
        {{MembersColumn}},
        case when p.issue_id is not null then (
          select i.holder || chr(31) || i.job || chr(31) || coalesce(to_char(i.expected_back, 'YYYY-MM-DD'), '') || chr(31)
            || to_char(i.at at time zone (select time_zone from site where id = s.site_id), 'YYYY-MM-DD')
          from issue i where i.id = p.issue_id) end as issued,
        case when p.open_holds > 0 or p.state = 'held' then array(
              select h.cause || ' ' || to_char(h.placed_at at time zone (select time_zone from site where id = s.site_id), 'YYYY-MM-DD')
                || ' ' || h.reason
              from hold h left join release r on r.hold_id = h.id
              where h.piece_id = p.id and r.hold_id is null order by h.placed_at) else '{}' end as holds
        """;

    /// <summary>
    /// A piece as its row says. A row that can't be read in full hides neither itself nor the others: what can be read
    /// is kept, and it says why.
    /// </summary>
    internal static Piece From(NpgsqlDataReader r)
    {
        try
        {
            return Whole(r);
        }
        catch (Exception e) when (IsUnreadable(e))
        {
            return Broken(r, e.Message);
        }
    }

    /// <summary>Whether an exception says that what is kept can't be read, and not that asking for it failed.</summary>
    internal static bool IsUnreadable(Exception e) =>
        e
            is FormatException
                or JsonException
                or InvalidOperationException
                or ArgumentException
                or KeyNotFoundException
                or OverflowException
                or NullReferenceException
                or InvalidCastException;

    private static Piece Broken(NpgsqlDataReader r, string why)
    {
        var family = r.Get<string>("family");
        return new()
        {
            Id = r.Get<Guid>("id"),
            Mark = r.Get<string>("mark"),
            Gear = new(GearFamilies.Find(family) ?? GearFamilies.Unknown(family), []),
            Serial = r.TextOrNull("serial"),
            Maker = r.TextOrNull("maker"),
            Model = r.TextOrNull("model"),
            TagEntries = [],
            ServiceClass = Code.Find<ServiceClass>(r.Get<string>("service_class")) ?? ServiceClass.Severe,
            RegisteredAt = r.Get<DateTimeOffset>("registered_at"),
            StoreId = r.Get<int>("store_id"),
            SiteId = r.Get<int>("site_id"),
            Store = r.Get<string>("store"),
            Peg = r.Get<string>("peg"),
            State = Code.Parse<PieceState>(r.Get<string>("state")),
            OpenHolds = [.. r.Get<string[]>("holds")],
            Version = r.Get<int>("version"),
            Unreadable = why,
        };
    }

    private static Piece Whole(NpgsqlDataReader r) =>
        new()
        {
            Id = r.Get<Guid>("id"),
            Mark = r.Get<string>("mark"),
            Gear = GearOf(r.Get<string>("family"), r.Get<string>("attributes")),
            Serial = r.TextOrNull("serial"),
            Maker = r.TextOrNull("maker"),
            Model = r.TextOrNull("model"),
            RatedLoad = r.TextOrNull("rated_load") is { } rated ? Mass.Parse(rated) : null,
            DesignFactor = r.ValueOrNull<decimal>("design_factor"),
            RatedFor = r.TextOrNull("rated_for"),
            TagEntries = r.Get<string[]>("tag_entries"),
            Surroundings = SurroundingsFrom(r.Get<string>("surroundings")),
            ServiceClass = Code.Parse<ServiceClass>(r.Get<string>("service_class")),
            InServiceSince = r.ValueOrNull<DateOnly>("in_service_since"),
            RegisteredAt = r.Get<DateTimeOffset>("registered_at"),
            Distrust = r.TextOrNull("distrust"),
            StoreId = r.Get<int>("store_id"),
            SiteId = r.Get<int>("site_id"),
            Store = r.Get<string>("store"),
            Peg = r.Get<string>("peg"),
            State = Code.Parse<PieceState>(r.Get<string>("state")),
            Verdict = r.TextOrNull("verdict") is { } verdict ? Code.Parse<VerdictKind>(verdict) : null,
            OpenHolds = r.Get<string[]>("holds").Select(HoldWords).ToList(),
            PeriodicDue = r.ValueOrNull<DateOnly>("periodic_due"),
            FrequentDue = r.ValueOrNull<DateOnly>("frequent_due"),
            Proof = new(r.ValueOrNull<DateOnly>("proof_due"), r.Get<bool>("proof_lacks")),
            Version = r.Get<int>("version"),
            TagRead = r.Get<bool>("tag_read"),
            Batch = r.TextOrNull("batch"),
            CalibrationDue = r.ValueOrNull<DateOnly>("calibration_due"),
            LotCount = r.ValueOrNull<int>("lot_count"),
            SeasonFor = r.ValueOrNull<DateOnly>("season_for"),
            IsCarried = r.Get<bool>("carried"),
            Locked = r.TextOrNull("locked"),
            Touched = r.ValueOrNull<DateOnly>("touched"),
            Details = DetailsOf(r.Get<string>("details")),
            Issued = r.TextOrNull("issued")?.Split('\x1f') is { } held
                ? new(held[0], held[1], held[2].Length == 0 ? null : Day(held[2]), Day(held[3]))
                : null,
            Members = MembersOf(r),
            CarriedOver = r.TextOrNull("carried_over")?.Split('\x1f') is { } report
                ? new(Day(report[0]), report[1], report[2])
                : null,
        };

    /// <summary>The registered members of a kit.</summary>
    internal static IReadOnlyList<MemberStanding> MembersOf(NpgsqlDataReader r)
    {
        if (r.IsDBNull(r.GetOrdinal("members")))
            return [];
        DateOnly? DayOf(string text) => text.Length == 0 ? null : Day(text);
        return
        [
            .. r.Get<string[]>("members")
                .Select(m => m.Split('\x1f'))
                .Select(m => new MemberStanding(
                    m[0],
                    Code.Parse<PieceState>(m[1]),
                    new(DayOf(m[2]), DayOf(m[3])),
                    DayOf(m[4])
                )
                {
                    Proof = new(DayOf(m[5]), m[6] == "true"),
                    IsLocked = m[8] == "true",
                    DiscardOn = DayReader.Read(m[7]) is { Ok: true } discard ? discard.Value : null,
                }),
        ];
    }

    private static DateOnly Day(string text) => DateOnly.ParseExact(text, "yyyy-MM-dd");

    internal static string DetailsJson(PieceEntry entry)
    {
        var fields = PieceEntryFields.Of(entry);
        return JsonSerializer.Serialize(
            PieceFields
                .Details.Select(f => f.Name)
                .Where(f => fields[f].Length > 0)
                .ToDictionary(f => f, f => fields[f])
        );
    }

    internal static string AttributesJson(GearPiece gear) =>
        JsonSerializer.Serialize(gear.Values.ToDictionary(v => v.Key, v => v.Value.Text));

    internal static string SurroundingsJson(Surroundings met) =>
        JsonSerializer.Serialize(
            new Dictionary<string, string?>
            {
                ["coldest"] = met.Coldest?.ToString(),
                ["hottest"] = met.Hottest?.ToString(),
                ["hasMet"] = met.HasMet?.ToString(),
                ["makersWord"] = met.MakersWord,
                ["chemicals"] = met.Chemicals.Count == 0 ? null : string.Join(' ', met.Chemicals.Select(Code.Of)),
            }
                .Where(f => f.Value is not null)
                .ToDictionary()
        );

    private static Surroundings SurroundingsFrom(string json)
    {
        if (json == "{}")
            return Surroundings.Ordinary;
        var fields = JsonSerializer.Deserialize<Dictionary<string, string>>(json)!;
        return new(
            At("coldest"),
            At("hottest"),
            At("hasMet"),
            (fields.GetValueOrDefault("chemicals") ?? string.Empty)
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(c => Code.Parse<Chemical>(c))
                .ToList()
        )
        {
            MakersWord = fields.GetValueOrDefault("makersWord"),
        };

        Temperature? At(string name) => fields.TryGetValue(name, out var text) ? Temperature.Read(text).Value : null;
    }

    /// <summary>
    /// Gear as the records have it. What is made alike is read once: a store holds far fewer makes than pieces.
    /// </summary>
    internal static GearPiece GearOf(string family, string json)
    {
        if (Makes.TryGetValue((family, json), out var known))
            return known;
        var values = JsonSerializer.Deserialize<Dictionary<string, string>>(json)!;
        var gear = new GearPiece(
            GearFamilies.Find(family)
                ?? throw new InvalidOperationException(
                    $"The records hold a family {family} that this version does not know."
                ),
            values.Select(v => new KeyValuePair<string, AttributeValue>(
                v.Key,
                GearAttributes.Find(v.Key)!.Read(v.Value).Value
            ))
        );
        if (Makes.Count >= MostMakes)
            Makes.Clear();
        return Makes[(family, json)] = gear;
    }

    /// <summary>Further fields as the records have them; written alike, they are read once.</summary>
    private static PieceDetails DetailsOf(string json)
    {
        if (Fields.TryGetValue(json, out var known))
            return known;
        if (Fields.Count >= MostMakes)
            Fields.Clear();
        return Fields[json] = PieceEntryReader.Details(JsonSerializer.Deserialize<Dictionary<string, string>>(json)!);
    }

    private const int MostMakes = 5000;

    private static readonly ConcurrentDictionary<string, PieceDetails> Fields = new();

    private static readonly ConcurrentDictionary<(string Family, string Json), GearPiece> Makes = new();

    private static string HoldWords(string row)
    {
        var parts = row.Split(' ', 3);
        return $"{HoldRules.Said(Code.Parse<HoldCause>(parts[0]))} since {parts[1]}, {parts[2].TrimEnd('.')}";
    }
}
