namespace Keralith.Core.Gear;

/// <summary>Metal mesh slings (ASME B30.9, chapter 9-3).</summary>
internal static class MeshCriteria
{
    private static readonly Chapter Book = new("ASME B30.9, metal mesh slings");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "mesh.weld",
            "Edge welds",
            "A broken weld or brazed joint along the edge.",
            "Bend each edge over the knee and look along it.",
            "One open weld lets the spiral walk out."
        ),
        Book.Fault(
            "mesh.broken-wire",
            "Broken wire",
            "A broken wire anywhere in the mesh.",
            "Draw a gloved hand over both faces; hold it against the light."
        ),
        Book.Measure(
            "mesh.abrasion",
            "wear",
            "Wire worn by rubbing",
            "The thinnest wire now, where it has been rubbed.",
            "Measure across the worn face of several wires; keep the worst.",
            null,
            new LossLimit(1, 4, Comparator.AtOrBelow),
            "wire when new"
        ),
        Book.Measure(
            "mesh.corrosion",
            "corrosion",
            "Wire eaten by corrosion",
            "The thinnest wire now, where it has corroded.",
            "Brush it bright first; keep the worst.",
            "Corroded wire is weaker than worn wire of the same thickness.",
            new LossLimit(15, 100, Comparator.AtOrBelow),
            "wire when new"
        ),
        Book.Test(
            "mesh.stiff",
            "flexibility",
            "Moves freely",
            "The mesh is stiff, spirals are locked, or it does not fold freely.",
            "Roll it up by hand from one end to the other."
        ),
        Book.Measure(
            "mesh.choker-slot",
            "end fittings",
            "Choker slot",
            "The depth of the slot in the choker fitting now.",
            "Measure from the open face to the bottom of the slot.",
            "A slot grows as the fitting is pulled out of shape.",
            new GrowthLimit(0.1m, Comparator.Above),
            "slot when new"
        ),
        Book.Measure(
            "mesh.eye-width",
            "end fittings",
            "Width of the eye",
            "The width of the eye opening now, across.",
            "Measure at the narrowest.",
            "An eye that has drawn in was overloaded.",
            new LossLimit(1, 10, Comparator.Below),
            "eye width when new"
        ),
        Book.Measure(
            "mesh.eye-section",
            "end fittings",
            "Section around the eye",
            "The thinnest section around the hook opening now.",
            "Measure at the bearing place.",
            null,
            new LossLimit(15, 100, Comparator.AtOrBelow),
            "section when new"
        ),
        Book.Fault(
            "mesh.fitting",
            "End fitting",
            "An end fitting is out of plane, cracked, pitted, corroded, bent or gouged.",
            "Lay it on a flat face; look at the eye's corners."
        ),
        Book.Fault("mesh.heat", "Heat", "Heat damage.", "Discoloured wire; brazing that has run."),
    ];

    public static string[] OnBody { get; } =
    ["mesh.weld", "mesh.broken-wire", "mesh.abrasion", "mesh.corrosion", "mesh.stiff", "mesh.heat"];

    public static string[] OnFitting { get; } = All.Ids().But(OnBody);
}
