using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>What a marking calls the load it names. All are treated as the piece's rated load.</summary>
public enum RatedAs
{
    [Code("rated-load")]
    RatedLoad,

    [Code("working-load-limit")]
    WorkingLoadLimit,

    [Code("safe-working-load")]
    SafeWorkingLoad,

    [Code("capacity")]
    Capacity,
}

/// <summary>How well a marking can be read.</summary>
public enum Legibility
{
    /// <summary>At arm's length.</summary>
    [Code("clear")]
    Clear,

    /// <summary>With cleaning, a lamp or a rubbing.</summary>
    [Code("hard")]
    Hard,

    /// <summary>Not all of it, whatever one does.</summary>
    [Code("unreadable")]
    Unreadable,
}

/// <summary>Where a marking is.</summary>
public enum MarkingPlace
{
    [Code("tag")]
    Tag,

    [Code("ferrule")]
    Ferrule,

    [Code("forged-in")]
    ForgedIn,

    [Code("stamped")]
    Stamped,

    [Code("plate")]
    Plate,

    [Code("sewn-label")]
    SewnLabel,
}

/// <summary>A rating a marking gives for one hitch and, where it says so, one angle.</summary>
/// <param name="Hitch">The hitch.</param>
/// <param name="Angle">Least angle of the legs from the horizontal; null where none is named.</param>
/// <param name="Load">As marked.</param>
public sealed record MarkedRating(Hitch Hitch, Angle? Angle, Mass Load)
{
    /// <summary>Most ratings one marking carries.</summary>
    public const int Most = 12;

    /// <summary>The legs used it is for, 1 to 4, where a maker rates a kit so; null: it is for a hitch.</summary>
    public int? Legs { get; init; }

    /// <summary>The document a kit's rating by legs used stands in; null for a rating by hitch.</summary>
    public string? Source { get; init; }

    /// <summary>As it is typed: <c>basket 60 deg 12200 lb</c>, or <c>4 legs 45 deg 14000 lb; sheet K-7</c>.</summary>
    public override string ToString() =>
        Legs is { } legs
            ? $"{legs} {(legs == 1 ? "leg" : "legs")} {Angle} {Load}; {Source}"
            : $"{Code.Of(Hitch)}{(Angle is { } a ? $" {a}" : string.Empty)} {Load}";

    /// <summary>Reads one rating as typed.</summary>
    public static Checked<MarkedRating> Read(string line)
    {
        const string Example = "write hitch, angle if it names one, and load, such as basket 60 deg 12200 lb";
        var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (words.Length > 1 && words[1].ToLowerInvariant() is "leg" or "legs")
            return ByLegs(line.Trim(), words);
        if (words.Length < 3 || Code.Find<Hitch>(words[0].ToLowerInvariant()) is not { } hitch)
            return new Refusal($"\"{line.Trim()}\": {Example}");
        Angle? angle = null;
        var rest = words[1..];
        if (rest.Length > 3 && rest[1].StartsWith("deg", StringComparison.OrdinalIgnoreCase))
        {
            var read = Quantities.Angle.Read($"{rest[0]} {rest[1]}");
            if (!read.Ok || read.Value.Degrees is <= 0 or > 90)
                return new Refusal($"\"{line.Trim()}\": an angle from the horizontal lies over 0 and up to 90 deg");
            (angle, rest) = (read.Value, rest[2..]);
        }

        var load = Mass.Read(string.Join(' ', rest));
        return !load.Ok ? new Refusal($"\"{line.Trim()}\": {load.Fault}")
            : load.Value.Kilograms <= 0 ? new Refusal($"\"{line.Trim()}\": a rated load is over 0")
            : new MarkedRating(hitch, angle, load.Value);
    }

    private static Checked<MarkedRating> ByLegs(string line, string[] words)
    {
        if (line.Split(';', 2, StringSplitOptions.TrimEntries) is not [var rating, { Length: > 0 and <= 80 } source])
            return new Refusal($"\"{line}\": say whose table it is, such as 4 legs 45 deg 14000 lb; sheet K-7");
        if (!int.TryParse(words[0], System.Globalization.NumberStyles.None, null, out var legs) || legs is < 1 or > 4)
            return new Refusal($"\"{line}\": a kit hangs by 1 to 4 legs");
        var rest = rating.Split(' ', StringSplitOptions.RemoveEmptyEntries)[2..];
        if (
            rest.Length < 3
            || Quantities.Angle.Read($"{rest[0]} {rest[1]}")
                is not { Ok: true, Value: { Degrees: > 0 and <= 90 } least }
        )
            return new Refusal(
                $"\"{line}\": name the least angle from the horizontal it is for, such as 4 legs 45 deg 14000 lb; sheet K-7"
            );
        var load = Mass.Read(string.Join(' ', rest[2..]));
        return !load.Ok ? new Refusal($"\"{line}\": {load.Fault}")
            : load.Value.Kilograms <= 0 ? new Refusal($"\"{line}\": a rated load is over 0")
            : new MarkedRating(Hitch.Vertical, least, load.Value) { Legs = legs, Source = source };
    }
}

/// <summary>What a kit's maker gives the set for so many legs used, from an angle up, whatever four legs count for.</summary>
/// <param name="Legs">Legs used, 1 to 4.</param>
/// <param name="Angle">The least horizontal angle it is for, over 0 to 90 degrees.</param>
/// <param name="Load">What the set carries so, over 0.</param>
/// <param name="Source">The document it stands in.</param>
public sealed record LegTableRow(int Legs, Angle Angle, Mass Load, string Source);

/// <summary>What a marking says beyond load and factor, in its own words and units.</summary>
/// <param name="RatedAs">What it calls the load.</param>
/// <param name="Hitch">The hitch it gives the rated load for; null where it names none.</param>
/// <param name="Angle">The angle of the legs from the horizontal it gives the rated load for; null where it names none.</param>
/// <param name="Ratings">Ratings it gives for other hitches and angles.</param>
/// <param name="Legibility">How well it can be read.</param>
/// <param name="Place">Where it is; null where nobody has said.</param>
public sealed record TagWords(
    RatedAs RatedAs,
    Hitch? Hitch,
    Angle? Angle,
    IReadOnlyList<MarkedRating> Ratings,
    Legibility Legibility,
    MarkingPlace? Place
)
{
    /// <summary>A rated load and nothing more said.</summary>
    public static TagWords Plain { get; } = new(RatedAs.RatedLoad, null, null, [], Legibility.Clear, null);

    public bool Equals(TagWords? other) =>
        other is not null
        && RatedAs == other.RatedAs
        && Hitch == other.Hitch
        && Angle == other.Angle
        && Legibility == other.Legibility
        && Place == other.Place
        && Ratings.SequenceEqual(other.Ratings);

    /// <summary>What a kit's maker gives by legs used; empty where there is no such table.</summary>
    public IReadOnlyList<LegTableRow> LegTable =>
        [
            .. Ratings
                .Where(r => r is { Legs: not null, Angle: not null, Source: not null })
                .Select(r => new LegTableRow(r.Legs!.Value, r.Angle!.Value, r.Load, r.Source!)),
        ];

    public override int GetHashCode() => HashCode.Combine(RatedAs, Hitch, Angle, Legibility, Place, Ratings.Count);
}
