using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Makers, models, batches and serials go by their letters and digits.</summary>
public class SpellingTests
{
    [Theory]
    [InlineData("Pellow Forge", "PELLOW-FORGE", true)]
    [InlineData("Pellow  Forge ", "pellow forge", true)]
    [InlineData("X-2", "X 2", true)]
    [InlineData("X-2", "X-20", false)]
    [InlineData("X-2", "X-3", false)]
    [InlineData("Pellow Forge", "Pellow Forges", false)]
    [InlineData("ΑΤΛΑΣ", "Ατλας", true)]
    [InlineData("Ατλας", "ατλασ", true)]
    [InlineData("Ødegård", "ØDEGÅRD", true)]
    [InlineData("Ødegård", "Odegard", false)]
    [InlineData(null, "", true)]
    [InlineData(null, "-", true)]
    [InlineData(null, "Pellow", false)]
    public void Letters_and_digits_tell_two_names_apart_and_nothing_else(string? one, string? other, bool same)
    {
        Assert.Equal(same, Spelling.Same(one, other));
        Assert.Equal(same, Spelling.Same(other, one));
        Assert.Equal(same, Spelling.Key(one) == Spelling.Key(other));
        Assert.Equal(same, Spelling.MayBeSame(one, other));
    }

    /// <summary>A limit of model 11 is none of model 1.1; a recall of the one holds the other until somebody looked.</summary>
    [Theory]
    [InlineData("X-1.1", "X-11")]
    [InlineData("3/8", "38")]
    [InlineData("1 500", "1500")]
    public void Figures_run_together_may_be_the_same_and_are_not(string one, string other)
    {
        Assert.False(Spelling.Same(one, other));
        Assert.True(Spelling.MayBeSame(one, other));
        Assert.True(Spelling.Same(one, one.Replace('.', '-').Replace('/', ' ')));
    }

    [Theory]
    [InlineData("HM-0011", "HM-OO11")]
    [InlineData("HM-0011", "HM0011")]
    [InlineData("HM-11", "HM-IL")]
    [InlineData("Ødegård", "Odegard")]
    [InlineData("ΑΤΛΑΣ", "ΑΤΛΑΣ")]
    [InlineData("Pellow", "РЕLLОW")]
    [InlineData("Ｋ１", "K1")]
    [InlineData("Müller", "MULLER")]
    [InlineData("Straße", "STRASSE")]
    public void What_looks_alike_is_one_where_that_is_the_safe_side(string one, string other) =>
        Assert.Equal(Looks.Of(one), Looks.Of(other));

    [Theory]
    [InlineData("HM-0011", "HM-0012")]
    [InlineData("Pellow", "Orrery")]
    [InlineData("日本", "日立")]
    public void What_does_not_look_alike_stays_apart(string one, string other) =>
        Assert.NotEqual(Looks.Of(one), Looks.Of(other));

    [Theory]
    [InlineData("Pellow Forge Ltd.", "PELLOW FORGE", true)]
    [InlineData("Pellow Forge GmbH & Co. KG", "Pellow Forge", true)]
    [InlineData("Orrery Chainworks, Inc", "Orrery Chain-Works", true)]
    [InlineData("Ltd", "Limited", false)]
    [InlineData("Pellow Forge", "Pellow Chains", false)]
    public void A_makers_legal_form_tells_no_two_apart(string one, string other, bool same) =>
        Assert.Equal(same, Looks.OfMaker(one) == Looks.OfMaker(other));

    [Theory]
    [InlineData("Orrery", "Orrery Chainworks", true)]
    [InlineData("Orery Chainworks", "Orrery Chainworks", true)]
    [InlineData("Orrery Chanework", "Orrery Chainworks", false)]
    [InlineData("Pelow", "Pellow", true)]
    [InlineData("Pelew", "Pellow", false)]
    [InlineData("Orrery Chainworks", "ORRERY CHAIN-WORKS LTD", false)]
    [InlineData("OC", "OC-8", false)]
    public void A_near_name_is_shown_and_never_taken(string one, string other, bool near)
    {
        Assert.Equal(near, Looks.IsNear(one, other));
        Assert.Equal(near, Looks.IsNear(other, one));
    }
}
