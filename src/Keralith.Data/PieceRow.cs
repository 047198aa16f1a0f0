using System.Text.Json;
using Keralith.Core;
using Keralith.Core.Criteria;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Markings;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Npgsql;

namespace Keralith.Data;

/// <summary>A piece as it stands now.</summary>
public sealed record PieceRow
{
    public required Guid Id { get; init; }

    public required string Mark { get; init; }

    public required GearPiece Gear { get; init; }

    public string? Serial { get; init; }

    public string? Maker { get; init; }

    public string? Model { get; init; }

    public Mass? RatedLoad { get; init; }

    public decimal? DesignFactor { get; init; }

    public string? RatedFor { get; init; }

    public required IReadOnlyList<string> TagEntries { get; init; }

    /// <summary>What it meets where it works.</summary>
    public Surroundings Surroundings { get; init; } = Surroundings.Ordinary;

    public required ServiceClass ServiceClass { get; init; }

    public DateOnly? InServiceSince { get; init; }

    public required int StoreId { get; init; }

    public required string Store { get; init; }

    public required string Peg { get; init; }

    public required PieceState State { get; init; }

    /// <summary>The last signed verdict; null before the first.</summary>
    public VerdictKind? Verdict { get; init; }

    /// <summary>Open holds in words, oldest first.</summary>
    public required IReadOnlyList<string> OpenHolds { get; init; }

    public DateOnly? PeriodicDue { get; init; }

    public DateOnly? FrequentDue { get; init; }

    public required int Version { get; init; }

    /// <summary>The gear as it is judged at a site: the site's policies stated with it.</summary>
    public GearPiece GearAt(Site site) => site.Policies.Applied(Gear);

    /// <summary>What its marking comes to at a site, asked of Core.</summary>
    public TagVerdict TagAt(Site site) => TagJudgement.Of(new(Gear, TagEntries, RatedLoad, DesignFactor), Surroundings, site.Books);

    /// <summary>The last day it may be used without another inspection, asked of Core.</summary>
    public DateOnly? UsableUntil => new DueDates(PeriodicDue, FrequentDue).UsableUntil;

    private bool FrequentByCalendar => Intervals.Frequent(Gear.Family, ServiceClass) is not EachUse;

    /// <summary>May it be used, asked of Core.</summary>
    public Usability UseOn(DateOnly today, Site site) => Usability.On(
        new UseFacts
        {
            State = State,
            OpenHolds = OpenHolds,
            PeriodicDue = PeriodicDue,
            FrequentDue = FrequentDue,
            FrequentByCalendar = FrequentByCalendar,
            RatedLoadKnown = RatedLoad is not null,
            AgainstMarking = TagAt(site).Remarks.Where(r => r.Outcome > Outcome.Watch && r.Check != TagJudgement.RatedLoadCheck).Select(r => r.Words).ToList(),
            ForLifting = !Gear.Family.NotForLifting,
        },
        today);

    internal const string Columns = """
        p.id, p.mark, p.family, p.serial, p.maker, p.model, p.attributes::text as attributes, p.rated_load, p.design_factor, p.rated_for, p.tag_entries, p.surroundings::text as surroundings,
        p.service_class, p.in_service_since, p.store_id, s.name as store, p.peg, p.state, p.verdict, p.periodic_due, p.frequent_due, p.version,
        array(select h.cause || ' ' || to_char(h.placed_at at time zone 'UTC', 'YYYY-MM-DD') || ' ' || h.reason
              from hold h left join release r on r.hold_id = h.id
              where h.piece_id = p.id and r.hold_id is null order by h.placed_at) as holds
        """;

    internal static PieceRow From(NpgsqlDataReader r) => new()
    {
        Id = r.Get<Guid>("id"),
        Mark = r.Get<string>("mark"),
        Gear = Attributes(r.Get<string>("family"), r.Get<string>("attributes")),
        Serial = r.TextOrNull("serial"),
        Maker = r.TextOrNull("maker"),
        Model = r.TextOrNull("model"),
        RatedLoad = r.TextOrNull("rated_load") is { } rated ? Mass.Parse(rated) : null,
        DesignFactor = r.ValueOrNull<decimal>("design_factor"),
        RatedFor = r.TextOrNull("rated_for"),
        TagEntries = r.Get<string[]>("tag_entries"),
        Surroundings = SurroundingsFrom(r.Get<string>("surroundings")),
        ServiceClass = Words.Parse<ServiceClass>(r.Get<string>("service_class"), Words.Code),
        InServiceSince = r.ValueOrNull<DateOnly>("in_service_since"),
        StoreId = r.Get<int>("store_id"),
        Store = r.Get<string>("store"),
        Peg = r.Get<string>("peg"),
        State = Words.Parse<PieceState>(r.Get<string>("state"), Words.Code),
        Verdict = r.TextOrNull("verdict") is { } verdict ? Words.Parse<VerdictKind>(verdict, Words.Code) : null,
        OpenHolds = r.Get<string[]>("holds").Select(HoldWords).ToList(),
        PeriodicDue = r.ValueOrNull<DateOnly>("periodic_due"),
        FrequentDue = r.ValueOrNull<DateOnly>("frequent_due"),
        Version = r.Get<int>("version"),
    };

    internal static string AttributesJson(GearPiece gear) => JsonSerializer.Serialize(gear.Values.ToDictionary(v => v.Key, v => v.Value.Text));

    internal static string SurroundingsJson(Surroundings met) => JsonSerializer.Serialize(new Dictionary<string, string?>
    {
        ["coldest"] = met.Coldest?.ToString(),
        ["hottest"] = met.Hottest?.ToString(),
        ["hasMet"] = met.HasMet?.ToString(),
        ["makersWord"] = met.MakersWord,
        ["chemicals"] = met.Chemicals.Count == 0 ? null : string.Join(' ', met.Chemicals.Select(Words.Code)),
    }.Where(f => f.Value is not null).ToDictionary());

    private static Surroundings SurroundingsFrom(string json)
    {
        if (json == "{}") return Surroundings.Ordinary;
        var fields = JsonSerializer.Deserialize<Dictionary<string, string>>(json)!;
        return new(At("coldest"), At("hottest"), At("hasMet"), (fields.GetValueOrDefault("chemicals") ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(c => Words.Parse<Chemical>(c, Words.Code)).ToList()) { MakersWord = fields.GetValueOrDefault("makersWord") };

        Temperature? At(string name) => fields.TryGetValue(name, out var text) ? Temperature.Read(text).Value : null;
    }

    private static GearPiece Attributes(string family, string json)
    {
        var values = JsonSerializer.Deserialize<Dictionary<string, string>>(json)!;
        return new(
            GearFamilies.Find(family) ?? throw new InvalidOperationException($"The records hold a family {family} that this version does not know."),
            values.Select(v => new KeyValuePair<string, AttributeValue>(v.Key, GearAttributes.Find(v.Key)!.Read(v.Value).Value)));
    }

    private static string HoldWords(string row)
    {
        var parts = row.Split(' ', 3);
        return $"{Words.Said(Words.Parse<HoldCause>(parts[0], Words.Code))} since {parts[1]}, {parts[2].TrimEnd('.')}";
    }
}
