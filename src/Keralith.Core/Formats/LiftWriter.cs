using System.Buffers;
using System.Text.Json;
using Keralith.Core.Lifts;

namespace Keralith.Core.Formats;

/// <summary>
/// Writes <c>keralith.lift-result/1</c>, or <c>/2</c> for a lift that was asked so: the same result, the same bytes.
/// Masses in kilograms to 0.01, lengths to 0.01 mm, angles to 0.01 degrees, shares used to four decimals.
/// </summary>
public static class LiftWriter
{
    public const string Format = "keralith.lift-result/1";

    public const string SecondFormat = "keralith.lift-result/2";

    private const int Masses = 2;
    private const int Lengths = 2;
    private const int Angles = 2;
    private const int Shares = 4;

    /// <summary>The result as JSON text.</summary>
    public static string Write(LiftResult result, bool indented = false) =>
        JsonText.Text(buffer => Write(buffer, result, indented));

    /// <summary>Writes the result as UTF-8 JSON.</summary>
    public static void Write(IBufferWriter<byte> buffer, LiftResult result, bool indented = false)
    {
        using var json = new Utf8JsonWriter(buffer, indented ? JsonText.Indented : JsonText.Compact);
        json.WriteStartObject();
        var second = result.Edition == LiftEdition.Second;
        json.WriteString("format", second ? SecondFormat : Format);
        json.WriteString("outcome", Code.Of(result.Outcome));
        if (second)
        {
            json.WriteFigure("loadKg", result.Load.Weight.Kilograms, Masses);
            Write(json, result.Centre);
        }

        json.WriteStartArray("legs");
        foreach (var leg in result.Legs)
            Write(json, leg);
        json.WriteEndArray();
        json.WriteStartArray("above");
        foreach (var piece in result.Above)
            Write(json, piece);
        json.WriteEndArray();
        if (result.Beam is { } beam)
            Write(json, beam);
        if (result.Crane is { } crane)
            Write(json, crane);
        if (result.Weakest is { } weakest)
        {
            json.WriteStartObject("weakest");
            if (weakest.Leg is { } leg)
                json.WriteNumber("leg", leg);
            else if (second)
                json.WriteNumber("leg", 0);
            else
                json.WriteNull("leg");
            json.WriteString("kind", weakest.Piece.Kind);
            json.WriteEndObject();
        }
        else
        {
            json.WriteNull("weakest");
        }

        json.WriteFigure("capacityKg", result.Capacity, Masses);
        if (result.Geometry is { } geometry)
        {
            json.WriteFigure("tiltDeg", geometry.Tilt is { } tilt ? Figures.Of(tilt) : null, Angles);
            json.WriteFigure("turnDeg", geometry.Turn is { } turn ? Figures.Of(turn) : null, Angles);
            json.WriteFigure("offsetMm", Figures.Of(geometry.Offset), Lengths);
        }

        json.WriteStartArray("remarks");
        foreach (var remark in result.Remarks)
        {
            json.WriteStartObject();
            json.WriteString("outcome", Code.Of(remark.Outcome));
            json.WriteString("text", remark.Text);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Point3? centre)
    {
        if (centre is not { } at)
        {
            json.WriteNull("centreOfGravityMm");
            return;
        }

        json.WriteStartArray("centreOfGravityMm");
        foreach (var along in new[] { at.X, at.Y, at.Z })
            json.WriteFigure(Figures.Of(along), Lengths);
        json.WriteEndArray();
    }

    private static void Write(Utf8JsonWriter json, BeamOnLift beam)
    {
        json.WriteStartObject("beam");
        json.WriteFigure("demandKg", beam.Piece.Demand, Masses);
        json.WriteFigure("allowedKg", beam.Piece.Allowed, Masses);
        json.WriteFigure("utilisation", beam.Piece.Utilisation, Shares);
        json.WriteFigure("compressionKg", beam.Compression, Masses);
        json.WriteStartArray("top");
        foreach (var leg in beam.Top)
        {
            json.WriteStartObject();
            json.WriteFigure("tensionKg", leg.Tension, Masses);
            json.WriteStartArray("pieces");
            foreach (var piece in leg.Pieces)
                Write(json, piece);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, CraneOnLift crane)
    {
        json.WriteStartObject("crane");
        json.WriteFigure("grossKg", crane.Gross, Masses);
        json.WriteFigure("netKg", crane.Net, Masses);
        json.WriteFigure("utilisation", crane.Piece.Utilisation, Shares);
        json.WriteFigure("governingRadiusMm", crane.Governing?.Millimetres, Lengths);
        json.WriteBoolean("critical", crane.IsCritical);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, LegOnLift leg)
    {
        json.WriteStartObject();
        json.WriteNumber("leg", leg.Number);
        json.WriteFigure("angle", leg.Angle, Angles);
        json.WriteFigure("tensionKg", leg.Tension, Masses);
        json.WriteFigure("inwardKg", leg.Inward, Masses);
        json.WriteStartArray("pieces");
        foreach (var piece in leg.Pieces)
            Write(json, piece);
        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, PieceOnLift piece)
    {
        json.WriteStartObject();
        json.WriteString("kind", piece.Kind);
        json.WriteFigure("demandKg", piece.Demand, Masses);
        json.WriteFigure("allowedKg", piece.Allowed, Masses);
        json.WriteFigure("utilisation", piece.Utilisation, Shares);
        json.WriteStartArray("reductions");
        foreach (var reduction in piece.Reductions)
        {
            json.WriteStartObject();
            json.WriteString("what", reduction.What);
            json.WriteFigure("factor", reduction.Factor, Shares);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteString("outcome", Code.Of(piece.Outcome));
        json.WriteEndObject();
    }
}
