using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Help in place: words explained, first steps, a unit asked for.</summary>
public class TermsTests
{
    [Fact]
    public void Every_word_has_a_name_of_its_own_and_a_meaning()
    {
        Assert.Equal(Terms.All.Count, Terms.All.Select(t => t.Code).Distinct().Count());
        Assert.Equal(Terms.All.Count, Terms.All.Select(t => t.Name).Distinct().Count());
        Assert.All(Terms.All, t => Assert.EndsWith(".", t.Meaning, StringComparison.Ordinal));
        Assert.All(Terms.All.SelectMany(t => t.Forms), form => Assert.Equal(form.ToLowerInvariant(), form));
    }

    [Theory]
    [InlineData("The throat opening, latch aside", "Latch", "Throat")]
    [InlineData("Pinched by a springy throaty thing")]
    [InlineData("PIN and body", "Pin")]
    [InlineData("D/d under 25: from the horizontal", "D/d", "Horizontal angle")]
    [InlineData("One rope lay", "Rope lay")]
    [InlineData("delay")]
    public void Words_are_found_whole_and_in_any_case(string text, params string[] names) =>
        Assert.Equal(names, Terms.In([text, null]).Select(t => t.Name));

    [Fact]
    public void What_an_inspection_of_a_hook_asks_is_explained()
    {
        var gear = new GearPiece(GearFamilies.Find("hook")!, []);
        var asked = Catalogue
            .Parts(gear, [])
            .SelectMany(p => p.Criteria)
            .SelectMany(c => new[] { c.Title, c.Question, c.Look });
        Assert.Superset(
            new HashSet<string> { "throat", "latch", "tip" },
            Terms.In(asked).Select(t => t.Code).ToHashSet()
        );
    }

    [Theory]
    [InlineData("3/8", true)]
    [InlineData("1-1/4", true)]
    [InlineData("12.5", true)]
    [InlineData("12.5 mm", false)]
    [InlineData("3/8 in", false)]
    [InlineData("about 3", false)]
    [InlineData("", false)]
    [InlineData(null, false)]
    public void A_figure_alone_asks_for_its_unit(string? typed, bool asks) =>
        Assert.Equal(asks, Length.WantsUnit(typed));

    [Fact]
    public void Every_first_step_is_told_done_by_an_entry_there_is()
    {
        var kinds = LedgerWords.All.Select(w => w.Kind).ToHashSet(StringComparer.Ordinal);
        Assert.All(Enum.GetValues<Role>().SelectMany(FirstSteps.Of).SelectMany(s => s.Kinds), k =>
            Assert.True(kinds.Contains(k) || k.StartsWith("lift.", StringComparison.Ordinal), k)
        );
        Assert.All(Enum.GetValues<Role>().SelectMany(FirstSteps.Of), s => Assert.NotEmpty(s.Kinds));
    }

    [Fact]
    public void The_steps_of_two_roles_stand_together_and_go_when_all_are_done()
    {
        Roles both = Roles.Of([Role.Stores, Role.Qualified]);
        var none = FirstSteps.Of(both, new HashSet<string>());
        Assert.Equal(FirstSteps.Of(Role.Stores).Count + FirstSteps.Of(Role.Qualified).Count, none.Count);
        Assert.DoesNotContain(none, s => s.Done);
        Assert.Contains(FirstSteps.Of(both, new HashSet<string> { "piece.issued" }), s => s.Done);
        Assert.Empty(FirstSteps.Of(both, FirstSteps.Kinds(both).ToHashSet()));
        Assert.Empty(FirstSteps.Of(Role.Auditor, new HashSet<string>()));
    }
}
