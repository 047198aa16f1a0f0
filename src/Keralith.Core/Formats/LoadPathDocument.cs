using System.Text.Json;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>Writes what <c>keralith.lift/2</c> adds: how a load is made up, edges, beams and cranes.</summary>
internal static class LoadPathDocument
{
    /// <summary>What the load weighs, or is made of, or weighed where, and the contingency on it.</summary>
    public static void MadeUp(Utf8JsonWriter json, LiftLoad load)
    {
        if (load.Parts is { } parts)
        {
            json.WriteStartArray("parts");
            foreach (var part in parts.Parts)
                Part(json, part);
            json.WriteEndArray();
        }
        else if (load is { Weighings: { } weighings, Basis: LoadBasis.Weighed })
        {
            json.WriteStartArray("weighings");
            foreach (var weighing in weighings.Readings)
            {
                json.WriteStartObject();
                json.WriteStartArray("at");
                json.WriteStringValue(Length.FromMillimetres(weighing.X).ToString());
                json.WriteStringValue(Length.FromMillimetres(weighing.Y).ToString());
                json.WriteEndArray();
                json.WriteString("reading", weighing.Reading.ToString());
                json.WriteEndObject();
            }

            json.WriteEndArray();
        }
        else
            json.WriteString("weight", LiftDocument.Text(load.Bare));

        // Where the weight stands with it in, it is not added again.
        var apart = load.Bare != load.Weight ? load.Contingency : null;
        json.WriteNumber("contingency", (apart ?? 0) * 100);
    }

    public static void Edge(Utf8JsonWriter json, Edge edge)
    {
        json.WriteStartObject("edge");
        json.WriteString("radius", edge.Radius.ToString());
        if (edge.Protection != EdgeProtection.None)
            json.WriteString("protection", Code.Of(edge.Protection));
        if (edge.ProtectedRadius is { } radius)
            json.WriteString("protectedRadius", radius.ToString());
        if (edge.Bears is { } bears)
            json.WriteString("bears", bears.ToString());
        json.WriteEndObject();
    }

    /// <summary>A beam, its drops and where the load's centre of gravity lies along it.</summary>
    public static void Beam(Utf8JsonWriter json, UnderBeam under)
    {
        var beam = under.Beam;
        json.WriteStartObject("beam");
        json.WriteString("kind", Code.Of(beam.Kind));
        if (beam.RatedLoad is { } rated)
            json.WriteString("ratedLoad", rated.ToString());
        if (beam.OwnWeight is { } own)
            json.WriteString("ownWeight", own.ToString());
        if (beam.Kind == BeamKind.Spreader)
        {
            json.WriteString("span", beam.Span.ToString());
            json.WriteString("topAngle", beam.TopAngle!.Value.ToString());
            json.WriteString("leastTopAngle", beam.LeastTopAngle.ToString());
        }

        if (beam.Top is { } top)
        {
            LiftDocument.Sling(json, "topSling", top.Sling, null);
            LiftDocument.Components(json, "topComponents", top.Components);
        }

        json.WriteEndObject();
        json.WriteStartArray("drops");
        foreach (var drop in under.Drops)
        {
            json.WriteStartObject();
            json.WriteString("at", drop.At.ToString());
            if (drop.AboveCentre is { } above)
                json.WriteString("above", above.ToString());
            LiftDocument.Rigging(json, drop.Rigging, null);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        if (under.Centre is { } centre)
            json.WriteString("centreOfGravity", centre.ToString());
    }

    public static void Crane(Utf8JsonWriter json, Crane crane)
    {
        json.WriteStartObject("crane");
        json.WriteStartArray("chart");
        foreach (var row in crane.Chart.Rows)
        {
            json.WriteStartObject();
            json.WriteString("configuration", row.Configuration);
            json.WriteString("boomLength", row.BoomLength.ToString());
            json.WriteString("radius", row.Radius.ToString());
            json.WriteString("capacity", row.Capacity.ToString());
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteString("configuration", crane.Configuration);
        json.WriteString("boomLength", crane.BoomLength.ToString());
        json.WriteStartArray("radii");
        foreach (var radius in crane.Radii)
            json.WriteStringValue(radius.ToString());
        json.WriteEndArray();
        json.WriteStartArray("deductions");
        foreach (var deduction in crane.Deductions)
        {
            json.WriteStartObject();
            json.WriteString("what", deduction.What);
            json.WriteString("weight", deduction.Weight.ToString());
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteNumber("criticalShare", crane.CriticalShare * 100);
        json.WriteEndObject();
    }

    private static void Part(Utf8JsonWriter json, LoadPart part)
    {
        json.WriteStartObject();
        switch (part.Shape)
        {
            case Lump lump:
                json.WriteString("weight", lump.Weight.ToString());
                break;
            case Box box:
                Shape("box", ("length", box.Along), ("width", box.Across), ("height", box.High));
                break;
            case Cylinder cylinder:
                Shape("cylinder", ("diameter", cylinder.Diameter), ("length", cylinder.Along));
                break;
            case Pipe pipe:
                Shape("pipe", ("outside", pipe.Outside), ("wall", pipe.Wall), ("length", pipe.Along));
                break;
            case Sphere sphere:
                Shape("sphere", ("diameter", sphere.Diameter));
                break;
            case Prism prism:
                Shape("prism", ("length", prism.Along));
                json.WriteString("area", $"{QuantityText.Number(prism.Section.SquareMillimetres)} mm2");
                break;
            case Linear linear:
                Shape("linear", ("length", linear.Along));
                json.WriteString("perLength", $"{QuantityText.Number(linear.PerLength.KilogramsPerMetre)} kg/m");
                break;
            default:
                throw new System.Diagnostics.UnreachableException();
        }

        if (part.Shape is Solid)
            json.WriteString("density", $"{QuantityText.Number(part.Density)} kg/m3");
        if (part.Count != 1)
            json.WriteNumber("count", part.Count);
        if (part.At is { } at)
            LiftDocument.Point(json, "at", at);
        json.WriteEndObject();

        void Shape(string name, params ReadOnlySpan<(string Name, Length Length)> sizes)
        {
            json.WriteString("shape", name);
            foreach (var (size, length) in sizes)
                json.WriteString(size, length.ToString());
        }
    }
}
