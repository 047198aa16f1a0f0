using Keralith.Core.People;
using Keralith.Core.Register;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What a change of each fact means once a piece was inspected, and who makes it.</summary>
public class PieceFactsTests
{
    /// <summary>Field, as it was, as it is to be, what it means, and the roles that may.</summary>
    public static TheoryData<string, string, string, ChangeMeaning, string> Table { get; } =
        new()
        {
            { "serial", "O-1", "O-2", ChangeMeaning.SlipOfThePen, "stores inspector qualified admin" },
            { "batch", "", "B-7", ChangeMeaning.SlipOfThePen, "stores inspector qualified admin" },
            { "notes", "", "Hangs low", ChangeMeaning.SlipOfThePen, "stores inspector qualified admin" },
            { "store", "1", "2", ChangeMeaning.SlipOfThePen, "stores inspector qualified admin" },
            { "peg", "A1", "B2", ChangeMeaning.SlipOfThePen, "stores inspector qualified admin" },
            {
                "maker",
                "Orrery Chainworks",
                "ORRERY CHAIN-WORKS",
                ChangeMeaning.SlipOfThePen,
                "stores inspector qualified admin"
            },
            { "maker", "Orrery Chainworks", "Pellow Forge", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "model", "", "OC-8", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "size", "3/8 in", "1/2 in", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "grade", "80", "100", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "legs", "2", "4", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "endFitting", "hook", "link", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "reach", "6 ft", "8 ft", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "ratedLoad", "12200 lb", "12199 lb", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "ratedLoad", "12200 lb", "", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "ratedLoad", "12200 lb", "12201 lb", ChangeMeaning.InspectedAgain, "qualified" },
            { "ratedLoad", "", "12200 lb", ChangeMeaning.InspectedAgain, "qualified" },
            { "designFactor", "4", "5", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "ratedFor", "2 legs at 60 deg", "vertical", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "ratedAngle", "", "60 deg", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "legibility", "", "unreadable", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "tag:maker", "", "true", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "serviceClass", "normal", "severe", ChangeMeaning.JudgedAgain, "stores inspector qualified admin" },
            { "serviceClass", "severe", "normal", ChangeMeaning.InspectedAgain, "qualified" },
            { "inServiceSince", "2020-01-01", "2024-01-01", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "discardOn", "2027-01-01", "2026-06-01", ChangeMeaning.JudgedAgain, "stores inspector qualified admin" },
            { "discardOn", "2027-01-01", "2028-01-01", ChangeMeaning.InspectedAgain, "qualified" },
            { "discardOn", "2027-01-01", "", ChangeMeaning.InspectedAgain, "qualified" },
            { "proofTestDue", "2027-01-01", "2028-01-01", ChangeMeaning.JudgedAgain, "qualified" },
            { "calibrationDue", "2026-01-01", "2027-01-01", ChangeMeaning.JudgedAgain, "qualified" },
            { "hottest", "200 F", "300 F", ChangeMeaning.JudgedAgain, "stores inspector qualified admin" },
            { "hottest", "300 F", "299 F", ChangeMeaning.InspectedAgain, "qualified" },
            { "hottest", "300 F", "", ChangeMeaning.InspectedAgain, "qualified" },
            { "coldest", "0 F", "-20 F", ChangeMeaning.JudgedAgain, "stores inspector qualified admin" },
            { "coldest", "-20 F", "0 F", ChangeMeaning.InspectedAgain, "qualified" },
            { "hasMet", "900 F", "", ChangeMeaning.InspectedAgain, "qualified" },
            { "meets:acid", "", "true", ChangeMeaning.JudgedAgain, "stores inspector qualified admin" },
            { "meets:acid", "true", "", ChangeMeaning.InspectedAgain, "qualified" },
            { "makersWord", "", "Letter of May", ChangeMeaning.JudgedAgain, "qualified" },
            { "fit:throat", "1 in", "2 in", ChangeMeaning.JudgedAgain, "inspector qualified" },
            { "baseline:leg-1/hook:hook.throat", "1-3/8 in", "2 in", ChangeMeaning.InspectedAgain, "qualified" },
            { "baseline:leg-1/hook:hook.throat", "1-3/8 in", "1-1/4 in", ChangeMeaning.JudgedAgain, "qualified" },
            { "basis:leg-1/hook:hook.throat", "twin", "new", ChangeMeaning.InspectedAgain, "qualified" },
            { "makersAngle", "", "10 deg; manual K-7", ChangeMeaning.JudgedAgain, "qualified" },
            { "ratingPaper", "", "sheet 44", ChangeMeaning.JudgedAgain, "qualified" },
            { "calculation", "", "C-118", ChangeMeaning.JudgedAgain, "qualified" },
            { "basis:leg-1/hook:hook.throat", "new", "twin", ChangeMeaning.JudgedAgain, "qualified" },
        };

    [Theory]
    [MemberData(nameof(Table))]
    public void A_change_means(string field, string was, string now, ChangeMeaning means, string roles)
    {
        var change = PieceFacts.Between(Entry(field, was), Entry(field, now))[0];
        Assert.Equal((field, means), (change.Field, change.Means));
        Assert.Equal(roles, string.Join(' ', Enum.GetValues<Role>().Where(r => r.May(change.Needs)).Select(Code.Of)));
    }

    [Fact]
    public void A_marking_read_for_the_first_time_brings_its_load_by_an_inspector()
    {
        var unread = Entry("ratedLoad", "") with { TagRead = false };
        Assert.All(PieceFacts.Between(unread, Entry("ratedLoad", "12200 lb")), c =>
            Assert.Equal((ChangeMeaning.JudgedAgain, Right.ChangeFacts), (c.Means, c.Needs))
        );
    }

    [Fact]
    public void Nothing_changed_is_no_change() =>
        Assert.Empty(PieceFacts.Between(Entry("peg", "A1"), Entry("peg", "A1")));

    [Theory]
    [InlineData(null, false, "Say why")]
    [InlineData(" ", false, "Say why")]
    [InlineData("Read on the mould", false, null)]
    [InlineData("Read on the mould", true, null)]
    public void What_is_read_from_the_piece_wants_a_reason(string? why, bool paper, string? refused)
    {
        var changes = PieceFacts.Between(Entry("size", "3/8 in"), Entry("size", "1/2 in"));
        var refusal = ChangeOfFacts.RefusalOf(
            changes,
            new(why, paper ? Guid.NewGuid() : null),
            GivenPeople.Signer(Role.Inspector)
        );
        Assert.Equal(refused is null, refusal is null);
        Assert.Contains(refused ?? "", refusal?.Words ?? "", StringComparison.Ordinal);
    }

    [Fact]
    public void What_makes_a_piece_milder_wants_the_paper_that_shows_it()
    {
        var changes = PieceFacts.Between(Entry("ratedLoad", "12200 lb"), Entry("ratedLoad", "20000 lb"));
        var by = GivenPeople.Signer(Role.Qualified);
        var bare = ChangeOfFacts.RefusalOf(changes, new("Misread", null), by);
        Assert.Contains("attach the paper", bare!.Words, StringComparison.Ordinal);
        Assert.Null(ChangeOfFacts.RefusalOf(changes, new("Misread", Guid.NewGuid()), by));
    }

    /// <summary>Another spelling of a value is no difference, and neither is what acts of their own change.</summary>
    [Theory]
    [InlineData("designFactor", "4.0", true)]
    [InlineData("designFactor", "5", false)]
    [InlineData("designFactor", "four", false)]
    [InlineData("ratedLoad", "12201 lb", false)]
    [InlineData("size", "0.375 in", true)]
    [InlineData("size", "1/2 in", false)]
    [InlineData("peg", "elsewhere", true)]
    [InlineData("store", "7", true)]
    [InlineData("maker", "Somebody", false)]
    [InlineData("baseline:leg-1/hook:hook.throat", "2 in", true)]
    public void What_a_piece_is_kept_as_is_compared_with_what_was_entered_by_what_it_says(
        string field,
        string entered,
        bool same
    )
    {
        var kept = Entry("peg", "A1");
        var said = PieceEntryFields.Of(kept);
        Assert.Empty(Stated.Differences(said, kept));
        said[field] = entered;
        Assert.Equal(same ? [] : [field], Stated.Differences(said, kept));
    }

    [Fact]
    public void What_an_entry_says_is_read_as_it_is_written_and_only_an_object_is()
    {
        var read = Stated.Read("""{"size":"3/8 in","legs":2,"tagUnread":true}""");
        Assert.Equal(("3/8 in", "2"), (read["size"], read["legs"]));
        Assert.ThrowsAny<System.Text.Json.JsonException>(() => Stated.Read("[1]"));
        Assert.ThrowsAny<System.Text.Json.JsonException>(() => Stated.Read("{"));
    }

    private static PieceEntry Entry(string field, string value)
    {
        var fields = new Dictionary<string, string>
        {
            ["mark"] = "HM-0001",
            ["family"] = "alloy-chain-sling",
            ["size"] = "3/8 in",
            ["grade"] = "80",
            ["legs"] = "2",
            ["endFitting"] = "hook",
            ["ratedLoad"] = "12200 lb",
            ["designFactor"] = "4",
            ["store"] = "1",
            ["peg"] = "A1",
            ["baseline:leg-1/hook:hook.throat"] = "1-3/8 in",
            ["basis:leg-1/hook:hook.throat"] = "new",
            [field] = value,
        };
        var (entry, faults) = PieceEntryReader.Read(fields);
        Assert.True(entry is not null, string.Join("; ", faults));
        return entry;
    }
}
