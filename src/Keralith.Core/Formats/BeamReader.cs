using Keralith.Core.Lifts;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>Reads a beam, what hangs below it, and where the load's centre of gravity lies along it.</summary>
internal static class BeamReader
{
    private static readonly Dictionary<string, BeamKind> Kinds = Enum.GetValues<BeamKind>().ToDictionary(Code.Of);
    private static readonly string[] Beside = ["drops", "centreOfGravity"];
    private static readonly string[] SpreaderAlone = ["topAngle", "leastTopAngle"];

    /// <summary>The arrangement under a beam; null where there is none or it can't be read.</summary>
    /// <param name="root">The whole lift.</param>
    public static UnderBeam? UnderBeam(JsonFields root)
    {
        if (!root.Has("beam"))
        {
            foreach (var name in Beside.Where(root.Has))
            {
                root.Take(name);
                root.Refuse(name, "there is no beam, expected it beside one");
            }

            return null;
        }

        var before = root.Faults.Count;
        var beam = root.Object("beam", Beam);
        var drops = Drops(root);
        var centre = root.Parsed("centreOfGravity", Length.Read);
        if (beam?.Kind == BeamKind.Equaliser && drops.Count == 1)
            root.Refuse("drops", "found one, expected two: an equaliser shares between them");
        return beam is null || root.Faults.Count > before ? null : new(beam, drops, centre);
    }

    private static LiftingBeam? Beam(JsonFields fields)
    {
        var before = fields.Faults.Count;
        var kind = fields.RequiredOneOf("kind", Kinds);
        var (rated, own) = (fields.PositiveMass("ratedLoad"), fields.MassFromZero("ownWeight"));
        var span = fields.LengthFromZero("span");
        var spreader = kind == BeamKind.Spreader;
        if (spreader)
        {
            fields.Require("the distance between the top picks", "span");
            fields.Require("the horizontal angle of both top legs", "topAngle");
            fields.Require("the sling of each top leg", "topSling");
            if (span is { Millimetres: 0 })
                fields.Refuse("span", "found 0, expected the distance between the top picks");
        }
        else if (span is { Millimetres: > 0 })
            fields.Refuse("span", $"found {span}, expected none: only a spreader has two top picks");
        var (angle, least) = (fields.AngleBetween("topAngle", 0, 90), fields.AngleBetween("leastTopAngle", 0, 90));
        if (angle is { Degrees: 0 or 90 })
            fields.Refuse("topAngle", $"found {angle}, expected between 0 and 90 deg");
        foreach (var name in SpreaderAlone.Where(n => !spreader && fields.Has(n)))
            fields.Refuse(name, "expected on a spreader only");
        if (!fields.Has("topSling") && fields.Has("topComponents"))
            fields.Refuse("topSling", "missing, expected the sling the components are in");
        var sling = fields.Object("topSling", s => RiggingReader.Sling(s, LiftEdition.Second));
        var components = RiggingReader.Components(fields, "topComponents", RiggingReader.ComponentKinds);
        fields.RefuseUnread("kind, ratedLoad, ownWeight, span, topAngle, leastTopAngle, topSling, topComponents");
        return fields.Faults.Count > before || kind is not { } k
            ? null
            : new(k, rated, own, span ?? Length.FromMillimetres(0))
            {
                TopAngle = angle,
                LeastTopAngle = least ?? LiftingBeam.UsualLeastTopAngle,
                Top = sling is null ? null : new(Tags.Hitch.Vertical, sling) { Components = components },
            };
    }

    private static List<Drop> Drops(JsonFields root)
    {
        root.Require("one or two drops below the beam", "drops");
        var drops = new List<Drop>();
        var count = 0;
        foreach (var fields in root.Objects("drops"))
        {
            count++;
            if (!fields.IsObject)
                continue;
            fields.Require("the drop's distance along the beam from its middle", "at");
            var (at, above) = (fields.Parsed("at", Length.Read), fields.Parsed("above", Length.Read));
            var rigging = RiggingReader.Rigging(fields, LiftEdition.Second);
            fields.RefuseUnread($"at, above, hitch, sling, components, {RiggingReader.Extras(LiftEdition.Second)}");
            if (at is not { } where || rigging is null)
                continue;
            if (drops.Any(d => d.At == where))
                fields.Refuse("at", $"found {where} twice, expected two drops apart");
            drops.Add(new(where, rigging) { AboveCentre = above });
        }

        if (root.Has("drops") && count is 0 or > 2)
            root.Refuse("drops", $"found {count}, expected one or two");
        return drops;
    }
}
