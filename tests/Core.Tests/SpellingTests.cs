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
    }
}
