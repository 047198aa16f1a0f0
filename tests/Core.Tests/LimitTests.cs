using Keralith.Core.Gear;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>
/// Every limit of chain, hook, link and shackle at, just below and just above, by book, in inches and millimetres.
/// </summary>
public class LimitTests
{
    private const string Chain =
        "{\"family\":\"alloy-chain-sling\",\"size\":\"SIZE\",\"grade\":\"80\",\"legs\":2,\"endFitting\":\"hook\"}";

    [Theory]
    // The hook's throat: from 5 % up, or a quarter inch (6 mm) where that is less; OSHA from over 15 %.
    [InlineData("asme", "hook.throat", "2.0999 in", "2 in", Outcome.Watch)]
    [InlineData("asme", "hook.throat", "2.1 in", "2 in", Outcome.Remove)]
    [InlineData("asme", "hook.throat", "2.1001 in", "2 in", Outcome.Remove)]
    [InlineData("asme", "hook.throat", "8.2499 in", "8 in", Outcome.Watch)]
    [InlineData("asme", "hook.throat", "8-1/4 in", "8 in", Outcome.Remove)]
    [InlineData("asme", "hook.throat", "41.99 mm", "40 mm", Outcome.Watch)]
    [InlineData("asme", "hook.throat", "42 mm", "40 mm", Outcome.Remove)]
    [InlineData("asme", "hook.throat", "155.99 mm", "150 mm", Outcome.Watch)]
    [InlineData("asme", "hook.throat", "156 mm", "150 mm", Outcome.Remove)]
    [InlineData("osha", "hook.throat", "2.2999 in", "2 in", Outcome.Watch)]
    [InlineData("osha", "hook.throat", "2.3 in", "2 in", Outcome.Watch)]
    [InlineData("osha", "hook.throat", "2.3001 in", "2 in", Outcome.Remove)]
    [InlineData("osha", "hook.throat", "46 mm", "40 mm", Outcome.Watch)]
    [InlineData("osha", "hook.throat", "46.01 mm", "40 mm", Outcome.Remove)]
    // A throat drawn in is a change the harmless way.
    [InlineData("asme", "hook.throat", "1.99 in", "2 in", Outcome.Clear)]
    // Wear of the section: a tenth may go; more removes.
    [InlineData("asme", "hook.wear", "0.9001 in", "1 in", Outcome.Watch)]
    [InlineData("asme", "hook.wear", "0.9 in", "1 in", Outcome.Watch)]
    [InlineData("asme", "hook.wear", "0.8999 in", "1 in", Outcome.Remove)]
    [InlineData("osha", "hook.wear", "22.5 mm", "25 mm", Outcome.Watch)]
    [InlineData("osha", "hook.wear", "22.49 mm", "25 mm", Outcome.Remove)]
    // The other schools.
    [InlineData("osha-construction", "hook.throat", "46 mm", "40 mm", Outcome.Watch)]
    [InlineData("osha-construction", "hook.throat", "46.01 mm", "40 mm", Outcome.Remove)]
    [InlineData("ontario", "hook.throat", "40 mm", "40 mm", Outcome.Clear)]
    [InlineData("ontario", "hook.throat", "40.01 mm", "40 mm", Outcome.Remove)]
    [InlineData("ontario", "hook.throat", "2.001 in", "2 in", Outcome.Remove)]
    [InlineData("japan", "hook.throat", "42 mm", "40 mm", Outcome.Remove)]
    [InlineData("australia", "hook.throat", "42 mm", "40 mm", Outcome.Watch)]
    [InlineData("australia", "hook.throat", "42.01 mm", "40 mm", Outcome.Remove)]
    [InlineData("australia", "hook.wear", "22.5 mm", "25 mm", Outcome.Watch)]
    [InlineData("australia", "hook.wear", "22.49 mm", "25 mm", Outcome.Remove)]
    [InlineData("europe", "hook.throat", "2.2 in", "2 in", Outcome.Watch)]
    [InlineData("europe", "hook.throat", "2.2001 in", "2 in", Outcome.Remove)]
    [InlineData("europe", "hook.wear", "0.9 in", "1 in", Outcome.Watch)]
    [InlineData("europe", "hook.wear", "0.8999 in", "1 in", Outcome.Remove)]
    public void A_hook_is_judged_at_its_limits(
        string book,
        string criterion,
        string value,
        string baseline,
        Outcome expected
    ) => Assert.Equal(expected, Given.Measured(Given.OneHook, criterion, "hook", value, baseline, book).Outcome);

    [Theory]
    [InlineData("9.99 deg", Outcome.Watch)]
    [InlineData("10 deg", Outcome.Watch)]
    [InlineData("10.01 deg", Outcome.Remove)]
    public void A_twist_of_more_than_ten_degrees_removes_under_osha(string angle, Outcome expected) =>
        Assert.Equal(expected, Given.Measured(Given.OneHook, "hook.twist-angle", "hook", angle, books: "osha").Outcome);

    [Theory]
    // A tenth gone removes, at the tenth already.
    [InlineData("shackle.wear-body", "body", "0.7876 in", "7/8 in", Outcome.Watch)]
    [InlineData("shackle.wear-body", "body", "0.7875 in", "7/8 in", Outcome.Remove)]
    [InlineData("shackle.wear-body", "body", "0.7874 in", "7/8 in", Outcome.Remove)]
    [InlineData("shackle.wear-pin", "pin", "22.51 mm", "25 mm", Outcome.Watch)]
    [InlineData("shackle.wear-pin", "pin", "22.5 mm", "25 mm", Outcome.Remove)]
    [InlineData("shackle.wear-pin", "pin", "22.49 mm", "25 mm", Outcome.Remove)]
    public void A_shackle_is_judged_at_its_limits(
        string criterion,
        string part,
        string value,
        string baseline,
        Outcome expected
    )
    {
        Assert.Equal(expected, Given.Measured(Given.ScrewShackle, criterion, part, value, baseline).Outcome);
        Assert.Equal(expected, Given.Measured(Given.ScrewShackle, criterion, part, value, baseline, "osha").Outcome);
    }

    [Theory]
    [InlineData("top-link", "0.6751 in", "3/4 in", Outcome.Watch)]
    [InlineData("leg-1/coupling", "0.675 in", "3/4 in", Outcome.Remove)]
    [InlineData("leg-2/coupling", "18.01 mm", "20 mm", Outcome.Watch)]
    [InlineData("top-link", "18 mm", "20 mm", Outcome.Remove)]
    public void A_link_is_judged_at_its_limit_wherever_it_sits(
        string part,
        string value,
        string baseline,
        Outcome expected
    ) => Assert.Equal(expected, Given.Measured(Given.TwoLegChain, "link.wear", part, value, baseline).Outcome);

    public static TheoryData<string, string, string> ThicknessRows =>
        new()
        {
            { "7/32 in", "0.189", "asme" },
            { "9/32 in", "0.239", "asme" },
            { "5/16 in", "0.273", "asme" },
            { "3/8 in", "0.342", "asme" },
            { "1/2 in", "0.443", "asme" },
            { "5/8 in", "0.546", "asme" },
            { "3/4 in", "0.687", "asme" },
            { "7/8 in", "0.750", "asme" },
            { "1 in", "0.887", "asme" },
            { "1-1/4 in", "1.091", "asme" },
            { "5.5 mm", "4.80", "asme" },
            { "7 mm", "6.07", "asme" },
            { "8 mm", "6.93", "asme" },
            { "10 mm", "8.69", "asme" },
            { "13 mm", "11.26", "asme" },
            { "16 mm", "13.87", "asme" },
            { "20 mm", "17.45", "asme" },
            { "22 mm", "19.05", "asme" },
            { "26 mm", "22.53", "asme" },
            { "32 mm", "27.71", "asme" },
            { "1/4 in", "0.203125", "osha" },
            { "3/8 in", "0.296875", "osha" },
            { "1/2 in", "0.390625", "osha" },
            { "5/8 in", "0.484375", "osha" },
            { "3/4 in", "0.59375", "osha" },
            { "7/8 in", "0.703125", "osha" },
            { "1 in", "0.8125", "osha" },
            { "1-1/8 in", "0.90625", "osha" },
            { "1-1/4 in", "1", "osha" },
            { "1-3/8 in", "1.09375", "osha" },
            { "1-1/2 in", "1.1875", "osha" },
            { "1-3/4 in", "1.40625", "osha" },
        };

    [Theory]
    [MemberData(nameof(ThicknessRows))]
    public void Chain_is_removed_below_its_least_thickness_and_not_at_it(string size, string least, string book)
    {
        var gear = Chain.Replace("SIZE", size, StringComparison.Ordinal);
        var unit = size.Split(' ')[1];
        var limit = decimal.Parse(least);
        Assert.Equal(
            Outcome.Watch,
            Given.Measured(gear, "chain.link-thickness", "leg-1", $"{limit} {unit}", books: book).Outcome
        );
        Assert.Equal(
            Outcome.Remove,
            Given.Measured(gear, "chain.link-thickness", "leg-1", $"{limit - 0.0001m} {unit}", books: book).Outcome
        );
        Assert.NotEqual(
            Outcome.Remove,
            Given.Measured(gear, "chain.link-thickness", "leg-1", $"{limit + 0.0001m} {unit}", books: book).Outcome
        );
    }

    [Theory]
    [InlineData("10 mm", "7.540625 mm", Outcome.Watch)]
    [InlineData("10 mm", "7.5406 mm", Outcome.Remove)]
    [InlineData("32 mm", "25.4 mm", Outcome.Watch)]
    [InlineData("32 mm", "25.3999 mm", Outcome.Remove)]
    public void Millimetre_named_chain_is_read_in_the_same_osha_rows(string size, string value, Outcome expected) =>
        Assert.Equal(
            expected,
            Given
                .Measured(
                    Chain.Replace("SIZE", size, StringComparison.Ordinal),
                    "chain.link-thickness",
                    "leg-1",
                    value,
                    books: "osha"
                )
                .Outcome
        );

    [Theory]
    [InlineData("japan", "16 mm", "14.4 mm", Outcome.Watch)]
    [InlineData("japan", "16 mm", "14.39 mm", Outcome.Remove)]
    [InlineData("australia", "3/8 in", "9 mm", Outcome.Watch)]
    [InlineData("australia", "3/8 in", "8.99 mm", Outcome.Remove)]
    [InlineData("europe", "11 mm", "9.9 mm", Outcome.Watch)]
    [InlineData("europe", "11 mm", "9.89 mm", Outcome.Remove)]
    [InlineData("ontario", "10 mm", "8.69 mm", Outcome.Watch)]
    [InlineData("ontario", "10 mm", "8.68 mm", Outcome.Remove)]
    public void Where_a_share_of_the_nominal_size_may_go_no_table_row_is_needed(
        string book,
        string size,
        string value,
        Outcome expected
    ) =>
        Assert.Equal(
            expected,
            Given
                .Measured(
                    Chain.Replace("SIZE", size, StringComparison.Ordinal),
                    "chain.link-thickness",
                    "leg-1",
                    value,
                    books: book
                )
                .Outcome
        );

    [Theory]
    [InlineData("japan")]
    [InlineData("europe")]
    public void The_half_and_one_and_a_half_percent_stand_beside_a_book_that_allows_five(string book)
    {
        Assert.Equal(
            Outcome.Hold,
            Given.Measured(Given.TwoLegChain, "chain.gauge-growth", "leg-1", "1010 mm", "1000 mm", book).Outcome
        );
        var finding = Given.Measured(Given.TwoLegChain, "chain.gauge-growth", "leg-1", "1015.01 mm", "1000 mm", book);
        Assert.Equal((Outcome.Remove, "asme"), (finding.Outcome, finding.Governing.From));
        Assert.StartsWith("ASME governs, under ", finding.Governing.Governs, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("europe", "ASME governs, under Europe")]
    [InlineData("asme", "ASME governs")]
    [InlineData("ontario", "ASME governs, under Ontario construction")]
    public void A_figure_of_asme_is_never_said_to_be_another_books(string book, string words) =>
        Assert.Equal(
            words,
            Given.Measured(Given.ScrewShackle, "shackle.wear-pin", "pin", "0.9 in", "1 in", book).Governing.Governs
        );

    [Theory]
    [InlineData("europe", "Europe governs")]
    [InlineData("ontario", "Ontario construction governs")]
    [InlineData("asme ontario", "Ontario construction governs")]
    public void A_figure_of_its_own_is_said_to_be_the_books(string books, string words) =>
        Assert.Equal(
            words,
            Given.Measured(Given.OneHook, "hook.throat", "hook", "2.3 in", "2 in", books).Governing.Governs
        );

    [Theory]
    [InlineData("chain.gauge-growth", "leg-1")]
    [InlineData("chain.gauge-difference", "leg-1")]
    [InlineData("chain.leg-difference", "legs")]
    public void Growth_over_half_a_percent_holds_and_over_one_and_a_half_removes(string criterion, string part)
    {
        foreach (
            var (value, expected) in new[]
            {
                ("1005", Outcome.Clear),
                ("1005.01", Outcome.Hold),
                ("1015", Outcome.Hold),
                ("1015.01", Outcome.Remove),
            }
        )
        {
            Assert.Equal(
                expected,
                Given.Measured(Given.TwoLegChain, criterion, part, $"{value} mm", "1000 mm").Outcome
            );
            foreach (var book in RuleBookShelf.All)
                Assert.Equal(
                    expected,
                    Given
                        .Measured(
                            Given.TwoLegChain,
                            criterion,
                            part,
                            $"{decimal.Parse(value) / 10} in",
                            "100 in",
                            book.Id
                        )
                        .Outcome
                );
        }
    }

    [Theory]
    [InlineData("5/16 in", "osha", "asme")]
    [InlineData("1-1/8 in", "asme osha", "osha")]
    public void A_book_without_a_row_for_the_size_leaves_it_to_one_that_has(string size, string books, string row)
    {
        var finding = Given.Measured(
            Chain.Replace("SIZE", size, StringComparison.Ordinal),
            "chain.link-thickness",
            "leg-1",
            "0.1 in",
            books: books
        );
        Assert.Equal(Outcome.Remove, finding.Outcome);
        Assert.Equal(row, finding.Governing.From ?? finding.Governing.Book);
    }

    [Fact]
    public void A_size_no_book_has_a_row_for_is_held_with_the_reason()
    {
        var finding = Given.Measured(
            Chain.Replace("SIZE", "1-1/8 in", StringComparison.Ordinal),
            "chain.link-thickness",
            "leg-1",
            "1.1 in"
        );
        Assert.Equal(Outcome.Hold, finding.Outcome);
        Assert.Contains("no row for 1-1/8 in", finding.Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("2.08 in", "0.0199 in", Outcome.Watch)]
    [InlineData("2.08 in", "0.02 in", Outcome.Hold)]
    [InlineData("2.08 in", "0.0201 in", Outcome.Hold)]
    [InlineData("2.1 in", "0.1 in", Outcome.Remove)]
    public void A_reading_within_its_uncertainty_of_the_limit_is_held_and_a_failed_one_has_failed(
        string value,
        string uncertainty,
        Outcome expected
    ) =>
        Assert.Equal(
            expected,
            Given
                .Measured(
                    Given.OneHook,
                    "hook.throat",
                    "hook",
                    value,
                    "2 in",
                    more: $",\"uncertainty\":\"{uncertainty}\""
                )
                .Outcome
        );

    [Theory]
    [InlineData("0.9251 in", Outcome.Clear)]
    [InlineData("0.925 in", Outcome.Watch)]
    [InlineData("0.9249 in", Outcome.Watch)]
    public void A_piece_is_watched_from_three_quarters_of_its_allowance(string value, Outcome expected) =>
        Assert.Equal(
            expected,
            Given.Measured("{\"family\":\"link-or-ring\"}", "link.wear", "body", value, "1 in").Outcome
        );

    [Theory]
    [InlineData("0.99 in", Outcome.Hold)]
    [InlineData("1.9 in", Outcome.Clear)]
    [InlineData("4.01 in", Outcome.Remove)]
    public void A_figure_under_half_or_over_twice_the_one_when_new_is_a_slip_of_the_unit(string value, Outcome expected)
    {
        Assert.Equal(expected, Given.Measured(Given.OneHook, "hook.throat", "hook", value, "2 in").Outcome);
        Assert.Equal(Outcome.Hold, Given.Measured(Given.OneHook, "hook.wear", "hook", "4.01 in", "2 in").Outcome);
    }
}
