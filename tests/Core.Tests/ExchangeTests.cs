using System.Buffers;
using System.Text;
using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>The same piece whichever way it comes in: by form, as a row of a file, as a document of a program.</summary>
public class ExchangeTests
{
    private static readonly StoreNames Stores = new([(1, "Basin Yard"), (2, "Upper Flight")]);

    public static TheoryData<string> Families => [.. GearFamilies.All.Select(f => f.Code)];

    [Theory]
    [MemberData(nameof(Families))]
    public void A_piece_of_every_family_comes_back_from_a_row_as_it_was(string family)
    {
        var entry = Entry(family);
        var (back, faults, passedOver) = RegisterColumns.Read(RegisterColumns.Write(entry, Stores), Stores);
        Assert.Empty(faults);
        Assert.Empty(passedOver);
        Same(entry, back!);
    }

    [Theory]
    [MemberData(nameof(Families))]
    public void A_piece_of_every_family_comes_back_from_a_document_as_it_was(string family)
    {
        var entry = Entry(family);
        var (piece, version) = PieceDocument.Read(Document(entry), Stores);
        Assert.Empty(piece.Faults);
        Assert.Equal(7, version);
        Same(entry, piece.Value!);
    }

    [Theory]
    [MemberData(nameof(Families))]
    public void The_fixed_columns_alone_are_enough_to_register_every_family(string family)
    {
        var cells = RegisterColumns.Write(Entry(family), Stores);
        var row = RegisterColumns.Fixed.ToDictionary(c => c, c => cells.GetValueOrDefault(c, string.Empty));
        var (entry, faults, _) = RegisterColumns.Read(row, Stores);
        Assert.Empty(faults);
        Assert.Equal(family, entry!.Gear.Family.Code);
        Assert.False(entry.TagRead, "a file that says nothing of the marking leaves it to be read");
    }

    [Theory]
    [InlineData("family", "rope", "no family")]
    [InlineData("store", "Attic", "no store")]
    [InlineData("store", "", "Basin Yard, Upper Flight")]
    [InlineData("mark", "", "Write the mark")]
    [InlineData("size", "", "needed")]
    [InlineData("size", "3/8", "no unit")]
    [InlineData("size", "3 km", "unit")]
    [InlineData("size", "9 m", "larger than any gear")]
    [InlineData("reach", "-2 ft", "over 0")]
    [InlineData("legs", "2,5", "whole number")]
    [InlineData("rated_load", "8 ton", "short ton")]
    [InlineData("last_periodic", "2026-02-30", "year-month-day")]
    [InlineData("last_inspector", "Ines Corvane", "date, inspector and name", "last_periodic")]
    [InlineData("lot_count", "4", "Only small hardware")]
    [InlineData("baseline_throat", "35", "no unit")]
    [InlineData("baseline_gauge_links", "ten", "how many links")]
    [InlineData("baseline_basis", "guessed", "where the figure comes from")]
    [InlineData("tag_ratings", "swing 2 t", "write hitch")]
    [InlineData("tag_ratings", "basket 95 deg 2 t", "up to 90 deg")]
    [InlineData("rated_angle", "120 deg", "from the horizontal")]
    public void A_cell_that_can_not_stand_is_named_by_its_column(
        string column,
        string value,
        string words,
        string? named = null
    )
    {
        var row = RegisterColumns.Write(Entry("alloy-chain-sling"), Stores);
        row[column] = value;
        var (entry, faults, _) = RegisterColumns.Read(row, Stores);
        Assert.Null(entry);
        Assert.Contains(words, faults[named ?? column], StringComparison.Ordinal);
    }

    [Fact]
    public void What_a_family_is_not_asked_about_is_left_out_and_said()
    {
        var row = RegisterColumns.Write(Entry("shackle"), Stores);
        (row["legs"], row["baseline_throat"]) = ("1", "1 in");
        var (entry, _, passedOver) = RegisterColumns.Read(row, Stores);
        Assert.NotNull(entry);
        Assert.Equal(["baseline_throat", "legs"], passedOver.Order());
    }

    [Fact]
    public void Gear_taken_over_says_where_its_figures_come_from()
    {
        var row = RegisterColumns.Write(Entry("shackle"), Stores);
        (row["last_periodic"], row["last_inspector"], row["evidence"]) = ("2026-01-10", "Hesper Lunn", "survey 3");
        Assert.NotNull(RegisterColumns.Read(row, Stores).Entry);
        row.Remove("baseline_basis");
        Assert.Contains(
            "taken over",
            RegisterColumns.Read(row, Stores).Faults["baseline_basis"],
            StringComparison.Ordinal
        );

        // Gear that comes new was measured new.
        (row["last_periodic"], row["last_inspector"], row["evidence"]) = ("", "", "");
        Assert.All(RegisterColumns.Read(row, Stores).Entry!.Baselines.Values, f =>
            Assert.Equal(BaselineBasis.New, f.Basis)
        );
    }

    [Fact]
    public void A_body_figure_is_never_taken_for_a_top_link_or_a_coupling()
    {
        var row = RegisterColumns
            .Write(Entry("alloy-chain-sling"), Stores)
            .Where(c => !c.Key.StartsWith("baseline:", StringComparison.Ordinal))
            .ToDictionary();
        (row["baseline_body"], row["baseline_basis"]) = ("1/2 in", "new");
        var entry = RegisterColumns.Read(row, Stores).Entry!;
        Assert.DoesNotContain(entry.Baselines.Keys, k => k.Criterion == "link.wear");
    }

    [Theory]
    [InlineData("Serial No.", "serial")]
    [InlineData("Rated Load", "rated_load")]
    [InlineData("WLL", "rated_load")]
    [InlineData("PIN-TYPE", "pin_type")]
    [InlineData("Location", "store")]
    [InlineData("weather", null)]
    [InlineData("", null)]
    public void A_strange_heading_is_matched_to_what_it_most_likely_means(string heading, string? column) =>
        Assert.Equal(column, RegisterColumns.Guess(heading));

    [Theory]
    [InlineData("""{"format":"keralith.piece/1"}""", "$.store", "missing")]
    [InlineData(
        """{"format":"keralith.piece/2","store":"Basin Yard","gear":{"family":"hook"}}""",
        "$.format",
        "expected"
    )]
    [InlineData("""{"format":"keralith.piece/1","store":"Attic","gear":{"family":"hook"}}""", "$.store", "Basin Yard")]
    [InlineData(
        """{"format":"keralith.piece/1","mark":"HM-1","store":"Basin Yard","gear":{"family":"hook"}}""",
        "$.gear.size",
        "needed"
    )]
    [InlineData(
        """{"format":"keralith.piece/1","mark":"HM-1","store":"Basin Yard","gear":{"family":"hook","legs":2}}""",
        "$.gear.legs",
        "not asked of hook"
    )]
    [InlineData(
        """{"format":"keralith.piece/1","mark":"HM-1","store":"Basin Yard","gear":{"family":"hook","size":"1 in"},"tagEntries":["reach"]}""",
        "$.tagEntries",
        "expected some of"
    )]
    [InlineData(
        """{"format":"keralith.piece/1","mark":"HM-1","store":"Basin Yard","gear":{"family":"hook","size":"1 in"},"baselines":[{"part":"pin","criterion":"shackle.wear-pin","value":"1 in"}]}""",
        "$.baselines[0].value",
        "no figure"
    )]
    [InlineData(
        """{"format":"keralith.piece/1","mark":"HM-1","store":"Basin Yard","gear":{"family":"hook","size":"1 in"},"colour":"red"}""",
        "$.colour",
        "unknown field"
    )]
    [InlineData("""[1]""", "$", "expected an object")]
    [InlineData("""{"format":""", "$", "not JSON")]
    public void A_document_that_can_not_stand_is_refused_with_the_path_of_each_fault(
        string json,
        string path,
        string words
    )
    {
        var (piece, _) = PieceDocument.Read(Encoding.UTF8.GetBytes(json), Stores);
        Assert.Null(piece.Value);
        Assert.Contains(piece.Faults, f => f.Path == path && f.Message.Contains(words, StringComparison.Ordinal));
    }

    private static PieceEntry Entry(string family)
    {
        var (entry, faults) = PieceEntryReader.Read(Testing.EveryFamily.Form(GearFamilies.Find(family)!, "HM-0001"));
        Assert.True(entry is not null, string.Join("; ", faults));
        return entry;
    }

    private static void Same(PieceEntry expected, PieceEntry actual) =>
        Assert.Equal(
            PieceEntryFields.Of(expected).OrderBy(f => f.Key),
            PieceEntryFields.Of(actual).OrderBy(f => f.Key)
        );

    private static ReadOnlyMemory<byte> Document(PieceEntry entry)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer))
            PieceDocument.Write(json, entry, Stores, w => w.WriteNumber("version", 7));
        return buffer.WrittenMemory;
    }
}
