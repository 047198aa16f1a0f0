using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>What a marking says, as read off it.</summary>
/// <param name="Gear">The piece it marks.</param>
/// <param name="Carried">Codes of the entries it carries.</param>
/// <param name="RatedLoad">As marked; null when it names none that can be read.</param>
/// <param name="DesignFactor">As marked; null when it names none.</param>
public sealed record TagTranscription(
    GearPiece Gear,
    IReadOnlyList<string> Carried,
    Mass? RatedLoad,
    decimal? DesignFactor
)
{
    /// <summary>Whether anybody has read the marking yet; gear taken over from a list has none read.</summary>
    public bool IsRead { get; init; } = true;

    /// <summary>What it says beyond load and factor.</summary>
    public TagWords Words { get; init; } = TagWords.Plain;

    /// <summary>The maker's paper that states a rated load above the usual one, as a qualified person entered it; null: none.</summary>
    public string? RatingPaper { get; init; }

    /// <summary>How well it can be read.</summary>
    public Legibility Legibility { get; init; } = Legibility.Clear;

    /// <summary>The entries it must carry and does not.</summary>
    public IEnumerable<TagEntry> Missing => Gear.Family.TagEntries.Where(e => e.Due(Gear) && !Carried.Contains(e.Code));
}

/// <summary>What a piece meets where it works, and the hottest it has met.</summary>
/// <param name="Coldest">The coldest it works in; null when nothing out of the ordinary.</param>
/// <param name="Hottest">The hottest it works in; null when nothing out of the ordinary.</param>
/// <param name="HasMet">The hottest exposure recorded; null when none was.</param>
/// <param name="Chemicals">What it meets.</param>
public sealed record Surroundings(
    Temperature? Coldest,
    Temperature? Hottest,
    Temperature? HasMet,
    IReadOnlyList<Chemical> Chemicals
)
{
    /// <summary>What the maker said of all this when asked, as a qualified person entered it; null: nobody has asked.</summary>
    public string? MakersWord { get; init; }

    /// <summary>
    /// Why a person may not put these in the place of others; null when they may. The maker's word is entered by a
    /// qualified person, for the conditions it was given for.
    /// </summary>
    /// <param name="before">What stood before.</param>
    public string? RefusalOf(Surroundings before, Roles roles) =>
        MakersWord is null || roles.May(Right.AcceptProvisional) || Equals(before)
            ? null
            : "The maker's word on temperatures and chemicals is entered by a qualified person, and anew when they change.";

    public bool Equals(Surroundings? other) =>
        other is not null
        && Coldest == other.Coldest
        && Hottest == other.Hottest
        && HasMet == other.HasMet
        && MakersWord == other.MakersWord
        && Chemicals.Order().SequenceEqual(other.Chemicals.Order());

    public override int GetHashCode() => HashCode.Combine(Coldest, Hottest, HasMet, MakersWord, Chemicals.Count);

    /// <summary>Nothing out of the ordinary.</summary>
    public static Surroundings Ordinary { get; } = new(null, null, null, []);
}
