using System.Collections.Concurrent;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>A piece as the wall needs it: how it stands, without what is written of it.</summary>
public sealed record WallRow
{
    public required string Mark { get; init; }

    public string? Serial { get; init; }

    public string? Maker { get; init; }

    public string? Model { get; init; }

    public required GearFamily Family { get; init; }

    public required string Peg { get; init; }

    public required PieceState State { get; init; }

    public VerdictKind? Verdict { get; init; }

    public DateOnly? PeriodicDue { get; init; }

    public DateOnly? SeasonFor { get; init; }

    public bool IsOut { get; init; }

    public bool IsCarried { get; init; }

    internal Guid Id { get; init; }

    internal Guid Make { get; init; }

    /// <summary>What decides whether it may be used, but for what its marking and the site's policies have against it.</summary>
    public required UseFacts Facts { get; init; }

    /// <summary>May it be used, asked of Core.</summary>
    public required Usability Use { get; init; }
}

/// <summary>The pieces of a store as they hang, thousands at once. What is marked on them is judged once for each make.</summary>
public sealed class WallStore(Database database)
{
    /// <summary>Most pieces of a store that are drawn.</summary>
    public const int Most = 20_000;

    private const int MostMakes = 20_000;

    private readonly ConcurrentDictionary<(Guid Make, int Site), Against> _makes = new();

    /// <summary>What a make has against its use, and what is left to know of it.</summary>
    private sealed record Against(IReadOnlyList<string> Marking, IReadOnlyList<string> Policy);

    /// <summary>What hangs in a store and may still turn up, by peg and mark.</summary>
    public async Task<List<WallRow>> HangingAsync(int store, Site site, DateOnly today, CancellationToken cancel)
    {
        var rows = await database.AskAsync(t => Hanging(t, store, site, today), cancel).ConfigureAwait(false);
        var unknown = rows.DistinctBy(r => r.Make)
            .Where(r => !_makes.ContainsKey((r.Make, site.Version)))
            .Select(r => r.Id)
            .ToArray();
        if (unknown.Length > 0)
        {
            if (_makes.Count > MostMakes)
                _makes.Clear();
            var samples = await database
                .Command(
                    $"select {PieceRows.Columns}, p.make from piece p join store s on s.id = p.store_id where p.id = any($1)"
                )
                .Positional([unknown])
                .ListAsync(r => (Piece: PieceRows.From(r), Make: r.Get<Guid>("make")), cancel)
                .ConfigureAwait(false);
            foreach (var (piece, make) in samples)
                _makes[(make, site.Version)] = new(
                    piece.Unreadable is null ? piece.TagAt(site).AgainstUse.ToList() : ["Its record can't be read."],
                    piece.Unreadable is null ? site.Policies.Against(piece.Gear).ToList() : []
                );
        }

        // One that was changed between the two questions may be of a make not asked for: it is then stopped, and known
        // at the next look.
        return rows.ConvertAll(r =>
            _makes.TryGetValue((r.Make, site.Version), out var against)
                ? r with
                {
                    Use = Usability.On(
                        r.Facts with
                        {
                            AgainstMarking = against.Marking,
                            AgainstPolicy = against.Policy,
                        },
                        today
                    ),
                }
                : r
        );
    }

    private static Asked<List<WallRow>> Hanging(Trip trip, int store, Site site, DateOnly today) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                select p.id, p.mark, p.serial, p.maker, p.model, p.family, p.peg, p.state, p.verdict,
                  p.periodic_due, p.frequent_due, p.service_class, p.open_holds, p.issue_id is not null, p.carried, p.season_for,
                  p.calibration_due, p.lot_count, p.rated_load is not null, p.make,
                  p.details @? '$.* ? (@.type() != "string")' as unreadable,
                  exists (select from distrust d where d.piece_id = p.id) as distrusted,
                  p.details->>'members' as roster, p.details->>'discardOn' as discard, p.proof_due, {PieceRows.MembersColumn}, p.proof_lacks
                from piece p
                where p.store_id = $1 and p.state not in {Fragments.Retired}
                order by p.peg, p.mark
                limit $2
                """
            ).Positional(store, Most),
            r => From(r, site, today)
        );

    private static readonly Usability NotKnown = new(["Not judged yet: look at the piece."]);

    private static WallRow From(NpgsqlDataReader r, Site site, DateOnly today)
    {
        var family = GearFamilies.Find(r.GetString(5)) ?? GearFamilies.Unknown(r.GetString(5));
        var season = Day(15);
        return new()
        {
            Id = r.GetGuid(0),
            Mark = r.GetString(1),
            Serial = Text(2),
            Maker = Text(3),
            Model = Text(4),
            Family = family,
            Peg = r.GetString(6),
            State = Code.Parse<PieceState>(r.GetString(7)),
            Verdict = Text(8) is { } verdict ? Code.Parse<VerdictKind>(verdict) : null,
            PeriodicDue = Day(9),
            SeasonFor = season,
            IsOut = r.GetBoolean(13),
            IsCarried = r.GetBoolean(14),
            Make = r.GetGuid(19),
            Use = NotKnown,
            Facts = new()
            {
                State = Code.Parse<PieceState>(r.GetString(7)),
                OpenHolds = r.GetInt32(12) > 0 ? Held : [],
                PeriodicDue = Day(9),
                FrequentDue = Day(10),
                FrequentByCalendar =
                    Intervals.Frequent(family, Code.Parse<ServiceClass>(r.GetString(11))) is not EachUse,
                RatedLoadKnown = r.GetBoolean(18),
                LacksSeasonColour = site.Seasons is { Enforced: true } scheme && !scheme.Counts(season, today),
                CalibrationDue = Day(16),
                DiscardOn = DayReader.Read(Text(23)) is { Ok: true } discard ? discard.Value : null,
                ProofTestDue = Day(24),
                LacksProofTest = r.GetBoolean(26),
                IsEmptyLot = !r.IsDBNull(17) && r.GetInt32(17) == 0,
                ForLifting = !family.NotForLifting,
                Unreadable = r.GetBoolean(20) ? "look at the piece." : null,
                Distrust = r.GetBoolean(21) ? "look at the piece." : null,
                AgainstMembers =
                    family.Kind == GearKind.Kit && Text(22) is { } roster
                        ? KitUse.Against(KitMember.Roster(roster), PieceRows.MembersOf(r), today)
                        : [],
            },
        };

        string? Text(int at) => r.IsDBNull(at) ? null : r.GetString(at);
        DateOnly? Day(int at) => r.IsDBNull(at) ? null : r.GetFieldValue<DateOnly>(at);
    }

    private static readonly string[] Held = ["on hold"];
}
