using Keralith.Core.Formats;
using Keralith.Core.Lifts;

namespace Keralith.Core.Tests;

/// <summary>Short ways to set up a lift.</summary>
internal static class GivenLift
{
    public const string Chain =
        """{"family":"alloy-chain-sling","size":"10 mm","grade":"80","ratedLoad":"3000 kg","designFactor":4}""";
    public const string Rope = """{"family":"wire-rope-sling","core":"iwrc","ratedLoad":"3000 kg","designFactor":5}""";
    public const string Web = """{"family":"web-sling","fiber":"polyester","ratedLoad":"3000 kg","designFactor":7}""";
    public const string Round =
        """{"family":"roundsling","coreFiber":"polyester","ratedLoad":"3000 kg","designFactor":7}""";
    public const string FiberRope =
        """{"family":"fiber-rope-sling","fiber":"polyester","ratedLoad":"3000 kg","designFactor":7}""";
    public const string Mesh =
        """{"family":"metal-mesh-sling","coating":"none","ratedLoad":"3000 kg","designFactor":5}""";

    /// <summary>Legs alike at one angle.</summary>
    public static LiftResult Alike(
        string sling,
        int legs = 2,
        string angle = "60 deg",
        string hitch = "vertical",
        string extra = "",
        string books = "asme",
        string weight = "1000 kg",
        string load = "",
        string more = ""
    ) =>
        Worked(
            $$"""{"format":"keralith.lift/1","ruleBooks":{{Books(books)}},"load":{"weight":"{{weight}}","basis":"weighed"{{load}}},"symmetric":{"legs":{{legs}},"angle":"{{angle}}","hitch":"{{hitch}}","sling":{{sling}}{{extra}}}{{more}}}"""
        );

    /// <summary>One plumb leg with one component in it.</summary>
    public static PieceOnLift Component(
        string component,
        string angle = "90 deg",
        string sling = Chain,
        string books = "asme",
        string load = ""
    ) =>
        Alike(
            sling,
            angle == "90 deg" ? 1 : 2,
            angle,
            extra: $",\"components\":[{component}]",
            books: books,
            load: load
        )
            .Legs[0]
            .Pieces[1];

    /// <summary>Straight legs to points, in millimetres.</summary>
    public static LiftResult ToPoints(
        string hook,
        string centre,
        string[] picks,
        string sling = Chain,
        string weight = "1000 kg",
        string more = ""
    ) => Worked(PointsJson(hook, centre, picks, sling, weight, more));

    public static string PointsJson(
        string hook,
        string centre,
        string[] picks,
        string sling = Chain,
        string weight = "1000 kg",
        string more = "",
        string hitch = "vertical"
    ) =>
        $$"""{"format":"keralith.lift/1","load":{"weight":"{{weight}}","basis":"weighed"},"geometry":{"hook":{{Point(hook)}},"centreOfGravity":{{Point(centre)}},"legs":[{{string.Join(",", picks.Select(p => $$"""{"pick":{{Point(p)}},"hitch":"{{hitch}}","sling":{{sling}}}"""))}}]}{{more}}}""";

    public static LiftResult Worked(string json) => LiftJudge.Of(Read(json));

    public static Lift Read(string json)
    {
        var read = LiftReader.Read(json);
        return read.Value ?? throw new InvalidOperationException(string.Join("\n", read.Faults));
    }

    public static string Point(string point) => $"[{string.Join(",", point.Split(' ').Select(f => $"\"{f} mm\""))}]";

    private static string Books(string books) => $"[{string.Join(",", books.Split(' ').Select(b => $"\"{b}\""))}]";
}
