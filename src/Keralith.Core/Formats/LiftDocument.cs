using System.Globalization;
using System.Text.Json;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>
/// Writes a lift in its edition, <c>keralith.lift/1</c> or <c>/2</c>, readable back to the same result.
/// </summary>
public static class LiftDocument
{
    /// <summary>
    /// The lift as JSON text; null where the format has no place for it: legs at one angle rigged differently, or a
    /// load between hoists.
    /// </summary>
    public static string? Write(Lift lift)
    {
        if (lift.Arrangement is BetweenHoists or BetweenCranes || lift.Above.Any(c => c is OtherOnLift))
            return null;
        if (lift.Arrangement is SymmetricLegs { Rigging: var each } && each.Select(Key).Distinct().Count() > 1)
            return null;
        return JsonText.Text(buffer =>
        {
            using var json = new Utf8JsonWriter(buffer, JsonText.Indented);
            json.WriteStartObject();
            json.WriteString(
                "format",
                lift.Edition == LiftEdition.Second ? LiftReader.SecondFormat : LiftReader.Format
            );
            json.WriteStartArray("ruleBooks");
            foreach (var book in lift.Books)
                json.WriteStringValue(book.Id);
            json.WriteEndArray();
            if (lift.FourLegs is { } four)
                json.WriteString("fourLegs", Code.Of(four));
            json.WriteStartObject("load");
            if (lift.Edition == LiftEdition.Second)
                LoadPathDocument.MadeUp(json, lift.Load);
            else
                json.WriteString("weight", lift.Load.Weight.ToString());
            if (lift.Load.Basis is { } basis)
                json.WriteString("basis", Code.Of(basis));
            if (lift.Load.Temperature is { } temperature)
                json.WriteString("temperature", temperature.ToString());
            json.WriteEndObject();
            if (lift.Arrangement is SymmetricLegs legs)
            {
                json.WriteStartObject("symmetric");
                json.WriteNumber("legs", legs.Rigging.Count);
                json.WriteString("angle", legs.Angle.ToString());
                Rigging(json, legs.Rigging[0], legs.Angle.Degrees, legs.Rigging.Count);
                json.WriteEndObject();
            }
            else if (lift.Arrangement is LegsToPoints points)
            {
                json.WriteStartObject("geometry");
                Point(json, "hook", points.Geometry.Hook);
                if (points.CentreIsTyped || !lift.Load.TellsItsCentre)
                    Point(json, "centreOfGravity", points.Geometry.Centre);
                json.WriteStartArray("legs");
                for (var i = 0; i < points.Rigging.Count; i++)
                {
                    json.WriteStartObject();
                    Point(json, "pick", points.Geometry.Picks[i]);
                    Rigging(json, points.Rigging[i], null);
                    json.WriteEndObject();
                }

                json.WriteEndArray();
                json.WriteEndObject();
            }
            else if (lift.Arrangement is UnderBeam under)
                LoadPathDocument.Beam(json, under);

            Components(json, "above", lift.Above);

            // The format knows one weight below all that is above: that of everything under the topmost piece.
            if (Mass.FromKilograms(lift.Below(0) - lift.BeamWeight) is { Kilograms: > 0 } below)
            {
                var weight = lift.Rigging is { } rigging && rigging.Kilograms == below.Kilograms ? rigging : below;
                json.WriteStartObject("rigging");
                json.WriteString("weight", Text(weight));
                json.WriteEndObject();
            }

            if (lift.Crane is { } crane)
                LoadPathDocument.Crane(json, crane);
            json.WriteEndObject();
        });
    }

    /// <summary>What a plan says that the document has no place for, in words; empty where it says everything.</summary>
    public static IReadOnlyList<string> LeftOut(PlannedLift planned)
    {
        var left = new List<string>();
        if (planned.Lift is not { } lift)
            return [.. planned.Wanted];
        if (lift.Arrangement is BetweenHoists)
            left.Add("a load passed between hoists");
        if (lift.Arrangement is BetweenCranes)
            left.Add("a load on two cranes");
        if (lift.Arrangement is SymmetricLegs { Rigging: var kits } && kits.Any(r => r.Sling.LegTable.Count > 0))
            left.Add("a kit's own table by legs used: it goes as a ceiling, four legs counted as three");
        if (lift.Arrangement is SymmetricLegs { Rigging: var each } && each.Select(Key).Distinct().Count() > 1)
            left.Add("legs at one angle that are rigged differently");
        if (lift.Above.Any(c => c is OtherOnLift))
            left.Add("a piece above of a kind the document does not know");
        if (planned.Plan.Weight.Remarks.Any(r => r.Outcome > LiftOutcome.Ok))
            left.Add("what else is known of the weight");
        if (planned.Plan.Headroom is not null)
            left.Add("the headroom and the way");
        if (lift.AboveWeights.Count > 1)
            left.Add("the own weight of each piece above: their sum is told");
        return left;
    }

    private static string Key(LegRigging rigging) =>
        JsonText.Text(buffer =>
        {
            using var json = new Utf8JsonWriter(buffer, JsonText.Compact);
            json.WriteStartObject();
            Rigging(json, rigging, null);
            json.WriteEndObject();
        });

    /// <summary>A mass with no more figures than the reader takes.</summary>
    internal static string Text(Mass mass) =>
        mass.ToString() is { Length: <= 18 } exact
            ? exact
            : Mass.FromKilograms(Math.Round(mass.Kilograms, 6)).ToString();

    internal static void Point(Utf8JsonWriter json, string name, Point3 point)
    {
        json.WriteStartArray(name);
        foreach (var at in new[] { point.X, point.Y, point.Z })
            json.WriteStringValue(
                $"{((decimal)Math.Round(at, 6)).ToString("0.######", CultureInfo.InvariantCulture)} mm"
            );
        json.WriteEndArray();
    }

    /// <summary>The fields of a leg.</summary>
    /// <param name="angle">The angle its tag's own figure may count at; null: none.</param>
    /// <param name="legs">How many legs hang alike; 0 where each stands by itself.</param>
    internal static void Rigging(Utf8JsonWriter json, LegRigging rigging, decimal? angle, int legs = 0)
    {
        json.WriteString("hitch", Code.Of(rigging.Hitch));
        Sling(json, "sling", rigging.Sling, angle, legs);
        Components(json, "components", rigging.Components);
        if (rigging.ChokeAngle is { } choke)
            json.WriteString("chokeAngle", choke.ToString());
        if (rigging.BendRatio is { } bend)
            json.WriteNumber("bendRatio", Math.Round(bend, 6));
        if (rigging.DoubleWrap)
            json.WriteBoolean("doubleWrap", true);
        if (rigging.Contact == Contact.Square)
            json.WriteString("contact", Code.Of(rigging.Contact));
        if (rigging.Reeved)
            json.WriteBoolean("reeved", true);
        if (rigging.Crossed)
            json.WriteBoolean("crossed", true);
        if (rigging.Edge is { } edge)
            LoadPathDocument.Edge(json, edge);
    }

    internal static void Components(Utf8JsonWriter json, string name, IEnumerable<LiftComponent> components)
    {
        json.WriteStartArray(name);
        foreach (var component in components)
            Component(json, component);
        json.WriteEndArray();
    }

    internal static void Sling(Utf8JsonWriter json, string name, LiftSling sling, decimal? angle, int legs = 0)
    {
        json.WriteStartObject(name);
        json.WriteString("family", sling.Gear.Family.Code);
        CaseWriter.WriteValues(
            json,
            sling.Gear.Values.Where(v => v.Key is not ("ratedLoad" or "designFactor" or "roster"))
        );
        if (sling.RatedLoad is { } rated)
            json.WriteString("ratedLoad", Text(rated));
        if (sling.DesignFactor is { } factor)
            json.WriteNumber("designFactor", factor);
        if (sling.ChokerRating is not null || sling.BasketRating is not null)
        {
            json.WriteStartObject("tagRatings");
            if (sling.ChokerRating is { } choker)
                json.WriteString("choker", Text(choker));
            if (sling.BasketRating is { } basket)
                json.WriteString("basket", Text(basket));
            json.WriteEndObject();
        }

        var table =
            angle is { } at && sling.Ceiling is { } ceiling && ceiling.Angle.Degrees <= at && ceiling.Angle.Degrees > 0
                ? [.. sling.TagTable, ceiling]
                : sling.TagTable;

        // A maker's table by legs used goes as the tag's: a ceiling, and nothing below its least angle.
        table =
        [
            .. table,
            .. sling
                .LegTable.Where(r => r.Legs == legs)
                .Select(r => new TagTableRow(Tags.Hitch.Vertical, r.Angle, r.Load)),
        ];
        if (table.Count > 0)
        {
            json.WriteStartArray("tagTable");
            foreach (var row in table)
            {
                json.WriteStartObject();
                json.WriteString("hitch", Code.Of(row.Hitch));
                json.WriteString("angle", row.Angle.ToString());
                json.WriteString("ratedLoad", Text(row.Load));
                json.WriteEndObject();
            }

            json.WriteEndArray();
        }

        if (sling.Hottest is { } hottest)
            json.WriteString("hottest", hottest.ToString());
        if (sling.Thickness is { } thickness)
            json.WriteString("thickness", thickness.ToString());
        json.WriteEndObject();
    }

    private static void Component(Utf8JsonWriter json, LiftComponent component)
    {
        json.WriteStartObject();
        json.WriteString("kind", component.Kind);
        if (component.RatedLoad is { } rated)
            json.WriteString("ratedLoad", Text(rated));
        switch (component)
        {
            case ShackleOnLift shackle:
                Angle("pull", shackle.Pull);
                Angle("collects", shackle.Collects);
                if (shackle.Pin is { } pin)
                    json.WriteString("pin", Code.Of(pin));
                break;
            case HookOnLift hook:
                Angle("collects", hook.Collects);
                break;
            case LinkOnLift link:
                Angle("collects", link.Collects);
                break;
            case EyeBoltOnLift bolt:
                if (bolt.Shoulder is { } shoulder)
                    json.WriteBoolean("shoulder", shoulder);
                if (!bolt.Seated)
                    json.WriteBoolean("seated", false);
                Angle("angle", bolt.Angle);
                Angle("outOfPlane", bolt.OutOfPlane);
                if (bolt.Hole is { } hole)
                    json.WriteString("hole", Code.Of(hole));
                if (bolt.Engaged is { } engaged)
                    json.WriteNumber("engaged", engaged);
                if (bolt.Metal is { } metal)
                    json.WriteString("metal", metal);
                break;
            case HoistOnLift hoist:
                Angle("offPlumb", hoist.OffPlumb);
                break;
            case LiftingPointOnLift point:
                json.WriteBoolean("documented", point.Documented);
                break;
            default:
                break;
        }

        json.WriteEndObject();

        void Angle(string name, Quantities.Angle? angle)
        {
            if (angle is { } a)
                json.WriteString(name, a.ToString());
        }
    }
}
