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
}
