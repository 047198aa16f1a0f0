namespace Keralith.Core.Gear;

/// <summary>A word of the trade, explained.</summary>
/// <param name="Code">Short fixed name, of its drawing too.</param>
/// <param name="Name">As it is said.</param>
/// <param name="Meaning">What it is, in a sentence or two.</param>
/// <param name="Forms">Other words it is met by in questions and on forms.</param>
public sealed record Term(string Code, string Name, string Meaning, params string[] Forms)
{
    /// <summary>Finds the word, whole, in a text of any case.</summary>
    internal bool IsIn(string lowerText) => Forms.Prepend(Name.ToLowerInvariant()).Any(form => Whole(lowerText, form));

    private static bool Whole(string text, string word)
    {
        for (var at = text.IndexOf(word, StringComparison.Ordinal); at >= 0; )
        {
            var after = at + word.Length;
            if (
                (at == 0 || !char.IsLetterOrDigit(text[at - 1]))
                && (after == text.Length || !char.IsLetterOrDigit(text[after]))
            )
                return true;
            at = text.IndexOf(word, after, StringComparison.Ordinal);
        }

        return false;
    }
}

/// <summary>The words of the trade that pages use, explained in ours. What a maker calls otherwise comes first there.</summary>
public static class Terms
{
    /// <summary>All of them, by name.</summary>
    public static IReadOnlyList<Term> All { get; } =
        new Term[]
        {
            new(
                "throat",
                "Throat",
                "The way into a hook: the narrowest distance from the tip across to the shank, the latch out of the way.",
                "throat opening"
            ),
            new(
                "saddle",
                "Saddle",
                "The bottom of a hook's bowl, where the load bears. Wear shows here first.",
                "bowl"
            ),
            new("tip", "Tip", "The point of a hook. A load on it bends the hook open.", "hook's tip"),
            new(
                "latch",
                "Latch",
                "The sprung gate that closes the throat of a hook. It keeps a slack sling in; it carries nothing.",
                "latches"
            ),
            new(
                "shank",
                "Shank",
                "The straight part of a hook or eye bolt above the bowl or the eye: what it is held by.",
                "shanks"
            ),
            new("swivel", "Swivel", "A joint that lets what hangs below turn. Not all turn under load.", "swivels"),
            new("bow", "Bow", "The rounded body of a shackle, opposite its pin.", "body of the shackle"),
            new(
                "pin",
                "Pin",
                "The bolt that closes a shackle. It goes with its own shackle and is fully seated: the shoulder against the ear.",
                "pins"
            ),
            new("ear", "Ear", "The two flattened ends of a shackle that the pin goes through.", "ears"),
            new(
                "master-link",
                "Master link",
                "The large link at the top that gathers the legs of a sling.",
                "apex",
                "top link",
                "master links"
            ),
            new("leg", "Leg", "One branch of a sling, from the top fitting to the hook or end.", "legs"),
            new(
                "reach",
                "Reach",
                "The length of a sling from bearing point to bearing point, drawn straight without load.",
                "effective length"
            ),
            new(
                "bearing",
                "Bearing point",
                "Where one link bears on the next. Links are parted there to be measured.",
                "bearing points",
                "bearing surface",
                "where links bear"
            ),
            new(
                "gauge",
                "Gauge length",
                "A count of links measured together: the same links as when new, so that growth shows.",
                "over links",
                "gauge"
            ),
            new(
                "lay",
                "Rope lay",
                "The length along a rope in which one strand goes once round.",
                "lay length",
                "one lay",
                "rope lays"
            ),
            new("strand", "Strand", "One of the bundles of wires or yarns a rope is laid from.", "strands"),
            new(
                "core",
                "Core",
                "The heart of a rope the strands lie on. Seen from outside, or pushed out, it is lost.",
                "cores"
            ),
            new(
                "valley",
                "Valley",
                "The groove between two strands. A wire broken there tells of damage inside.",
                "valleys",
                "valley breaks"
            ),
            new(
                "kink",
                "Kink",
                "A loop pulled tight: the strands stay displaced when it is straightened.",
                "kinks",
                "kinked"
            ),
            new(
                "birdcage",
                "Birdcage",
                "Strands sprung open like a basket, after a shock or twisting.",
                "birdcaging",
                "birdcaged"
            ),
            new("crush", "Crushing", "A rope pressed out of round: strands flattened against each other.", "crushed"),
            new(
                "diameter",
                "Rope diameter",
                "Measured over the crowns of opposite strands, never across the flats.",
                "over the crowns"
            ),
            new("splice", "Splice", "Strands worked back into the rope to make an eye.", "splices", "tucks"),
            new("sleeve", "Sleeve", "A metal ferrule pressed round the rope to hold an eye.", "ferrule", "swage"),
            new(
                "clip",
                "Wire rope clip",
                "A saddle and U-bolt: the saddle sits on the live end, the bolt on the dead end.",
                "clips",
                "u-bolt"
            ),
            new(
                "turnback",
                "Turn-back",
                "How much rope is turned back past an eye, for the clips to hold.",
                "turnback"
            ),
            new(
                "live-end",
                "Live end",
                "The part of a rope that carries the load; the dead end is what is turned back.",
                "dead end"
            ),
            new("eye", "Eye", "The loop at the end of a sling or the ring of an eye bolt.", "eyes"),
            new(
                "stitching",
                "Stitching",
                "The sewing that holds a web sling's splices. Broken or cut stitches take it out of use.",
                "stitches",
                "stitch"
            ),
            new(
                "warning-yarn",
                "Warning yarn",
                "Coloured yarn inside some web slings: seen, the sling is worn through.",
                "warning yarns",
                "wear indicator"
            ),
            new(
                "cover",
                "Cover",
                "The sleeve round a roundsling's load-bearing yarn. A hole in it that shows the core ends the sling's use.",
                "jacket"
            ),
            new(
                "mesh",
                "Mesh",
                "Wire spirals side by side, joined by cross rods and bars, as one flat sling.",
                "spiral",
                "spirals"
            ),
            new(
                "gouge",
                "Gouge",
                "A groove with sharp edges cut or dragged into the metal; a nick is a short one.",
                "gouges",
                "nick",
                "nicks"
            ),
            new("twist", "Twist", "Turned out of its own plane.", "twisted"),
            new(
                "hitch",
                "Hitch",
                "How a sling holds the load: straight down, choked round it, or as a basket under it.",
                "hitches"
            ),
            new(
                "choker",
                "Choker",
                "The sling passed round the load and through its own eye or hook. It carries less than straight.",
                "choker hitch",
                "choked"
            ),
            new(
                "angle-of-choke",
                "Angle of choke",
                "The angle between the sling and its running part at the choke. Tighter than 120 deg carries less.",
                "angle of choke"
            ),
            new("basket", "Basket", "The sling passed under the load with both eyes up.", "basket hitch"),
            new(
                "horizontal",
                "Horizontal angle",
                "Between a leg and the horizontal. The flatter the leg, the more it pulls; under 30 deg no lift is made.",
                "from the horizontal"
            ),
            new("included", "Included angle", "Between two legs, at the point where they meet.", "included angles"),
            new(
                "dd",
                "D/d",
                "The diameter a rope is bent round over the diameter of the rope: the smaller, the less it carries.",
                "d/d ratio"
            ),
            new(
                "gravity",
                "Centre of gravity",
                "Where the load would balance. The hook has to stand over it.",
                "center of gravity"
            ),
            new(
                "rated",
                "Rated load",
                "The most the maker lets a piece carry, in the hitch and at the angle on its tag.",
                "wll",
                "working load limit",
                "rated capacity"
            ),
            new(
                "factor",
                "Design factor",
                "The breaking strength over the rated load. It is the maker's reserve, never yours to use.",
                "safety factor"
            ),
            new(
                "proof",
                "Proof test",
                "A load over the rated one, put on once on a test bed, to show that a piece is sound.",
                "proof load",
                "proof tested"
            ),
            new(
                "spreader",
                "Spreader",
                "A beam pressed lengthwise between two legs above it; a lifting beam hangs from its middle and bends.",
                "lifting beam",
                "spreader beam"
            ),
            new(
                "headroom",
                "Headroom",
                "The height there is between what the hook hangs from and what has to be cleared.",
                "head room"
            ),
            new(
                "first-use",
                "Initial inspection",
                "The first, of new, altered or repaired gear, before it is used.",
                "initial"
            ),
            new(
                "frequent",
                "Frequent inspection",
                "Looking it over before a shift or by the month: what fails fast.",
                "frequent check",
                "pre-use"
            ),
            new(
                "periodic",
                "Periodic inspection",
                "Whole, hands on every link and part, measured, and recorded.",
                "periodic"
            ),
            new(
                "baseline",
                "Figure when new",
                "What a measure was before use. Wear and growth are judged against it.",
                "figures when new",
                "when new"
            ),
        }
            .OrderBy(t => t.Name, StringComparer.OrdinalIgnoreCase)
            .ToList();

    /// <summary>The words a page uses, by name.</summary>
    /// <param name="texts">What stands on it.</param>
    public static IReadOnlyList<Term> In(IEnumerable<string?> texts)
    {
        var whole = string.Join('\n', texts.Where(t => t is not null)).ToLowerInvariant();
        return [.. All.Where(t => t.IsIn(whole))];
    }
}
