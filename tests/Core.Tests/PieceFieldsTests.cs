using System.Reflection;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Testing;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>One table of a piece's fields: form, file, document, record and history take them from it.</summary>
public class PieceFieldsTests
{
    private static readonly StoreNames Stores = new([(1, "Basin Yard")]);

    /// <summary>A piece with every field filled that its family may have.</summary>
    private static PieceEntry Full(string family)
    {
        var form = EveryFamily.Form(GearFamilies.Find(family)!, "HM-0001");
        foreach (
            var (field, text) in new Dictionary<string, string>
            {
                ["model"] = "Bow",
                ["ratedFor"] = "straight pull",
                ["designFactor"] = "4",
                ["serviceClass"] = "heavy",
                ["inServiceSince"] = "2025-02-01",
                ["calibrationDue"] = "2027-03-31",
                ["hottest"] = "60 C",
                ["hasMet"] = "120 C",
                ["makersWord"] = "Asked on 2026-01-04",
                ["legibility"] = "hard",
                ["markingAt"] = "forged-in",
                ["lastPeriodic"] = "2025-11-30",
                ["lastInspector"] = "Somebody elsewhere",
                ["evidence"] = "R-7",
                ["makersAngle"] = "10 deg; manual K-7, p. 12",
                ["calculation"] = "C-118",
                ["ratingPaper"] = "sheet 44",
                ["fit:bowl"] = "40 mm",
                ["fit:section"] = "30 mm",
                ["fit:inside"] = "50 mm",
                ["fit:stock"] = "22 mm",
            }
        )
            form[field] = text;
        form["store"] = "1";
        var (entry, faults) = PieceEntryReader.Read(form);
        Assert.Empty(faults);
        return entry!;
    }

    [Theory]
    [InlineData("web-sling")]
    [InlineData("shackle")]
    [InlineData("sling-kit")]
    public void Every_field_comes_back_from_a_form_a_file_and_a_document_as_it_was(string family)
    {
        var entry = Full(family);
        var said = PieceFields.All.ToDictionary(f => f.Name, f => f.Write(entry));
        var empty = said.Where(f => f.Value.Length == 0).Select(f => f.Key).ToList();
        Assert.Equal(family == "sling-kit" ? ["lotCount"] : ["lotCount", "members"], empty);

        var (typed, _) = PieceEntryReader.Read(PieceEntryFields.Of(entry));
        var (row, faults, _) = RegisterColumns.Read(RegisterColumns.Write(entry, Stores), Stores);
        Assert.Empty(faults);
        using var buffer = new MemoryStream();
        using (var json = new System.Text.Json.Utf8JsonWriter(buffer))
            PieceDocument.Write(json, entry, Stores, _ => { });
        var document = PieceDocument.Read(buffer.ToArray(), Stores).Piece;
        Assert.Empty(document.Faults);
        foreach (var field in PieceFields.All)
        {
            foreach (var back in new[] { typed!, row!, document.Value! })
                Assert.Equal(said[field.Name], field.Write(back));
        }
    }

    [Fact]
    public void A_discard_date_and_a_proof_test_are_not_lost_on_the_way_to_another_works()
    {
        var cells = RegisterColumns.Write(Full("web-sling"), Stores);
        Assert.Equal(("2031-04-30", "2030-02-28"), (cells["discard_on"], cells["proof_test_due"]));
    }

    [Fact]
    public void Whatever_is_kept_among_the_details_stands_in_the_table()
    {
        var full = Full("sling-kit").Details;
        foreach (var property in typeof(PieceDetails).GetProperties(BindingFlags.Public | BindingFlags.Instance))
        {
            // Emptied alone, some field has to say otherwise.
            var without = full with { };
            property.SetValue(without, property.GetValue(PieceDetails.None));
            var (before, after) = (Full("sling-kit"), Full("sling-kit") with { Details = without });
            Assert.True(
                PieceFields.Details.Any(f => f.Write(before) != f.Write(after)),
                $"No field of the table carries {property.Name}."
            );
        }
    }

    [Fact]
    public void Details_alone_are_read_as_with_all_the_rest()
    {
        var entry = Full("sling-kit");
        var details = PieceEntryReader.Details(PieceEntryFields.Of(entry));
        foreach (var field in PieceFields.Details)
            Assert.Equal(field.Write(entry), field.Write(entry with { Details = details }));
    }

    [Theory]
    [InlineData("lotCount", "shackle", "web-sling")]
    [InlineData("discardOn", "web-sling", "shackle")]
    [InlineData("calibrationDue", "load-indicator", "shackle")]
    [InlineData("ratedHitch", "wire-rope-sling", "shackle")]
    [InlineData("members", "sling-kit", "wire-rope-sling")]
    [InlineData("makersAngle", "hand-chain-hoist", "lever-hoist")]
    [InlineData("calculation", "lifting-point", "hook")]
    public void A_form_asks_what_its_family_has(string field, string asked, string not)
    {
        Assert.True(PieceFields.Find(field)!.IsAskedOf(GearFamilies.Find(asked)!));
        Assert.False(PieceFields.Find(field)!.IsAskedOf(GearFamilies.Find(not)!));
    }

    [Fact]
    public void What_is_one_pieces_own_is_no_start_for_another()
    {
        var start = PieceEntryFields.StartOf(Full("web-sling"));
        Assert.All(PieceFields.All.Where(f => f.IsOwn), f => Assert.False(start.ContainsKey(f.Name), f.Name));
        Assert.Equal("Bow", start["model"]);
    }
}
