using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What people write is kept whole or refused with its count; what is no text is refused.</summary>
public class FreeTextTests
{
    [Theory]
    [InlineData("Bent at the tip", null)]
    [InlineData("two\nlines\tand a tab\r\n", null)]
    [InlineData("Zo\u00eb saw it \U0001F44D", null)]
    [InlineData("nul \0 here", "U+0000")]
    [InlineData("bell \a", "U+0007")]
    [InlineData("delete \u007f", "U+007F")]
    public void What_is_no_text_is_named(string text, string? fault)
    {
        Assert.Equal(fault is null, FreeText.FaultOf(text) is null);
        Assert.Contains(fault ?? "", FreeText.FaultOf(text) ?? "", StringComparison.Ordinal);
    }

    [Fact]
    public void Half_a_character_is_no_text()
    {
        foreach (var half in new[] { (char)0xD83D, (char)0xDC4D })
        {
            Assert.Contains("half", FreeText.FaultOf($"tip {half}"), StringComparison.Ordinal);
            Assert.Contains("half", FreeText.FaultOf($"{half}tip"), StringComparison.Ordinal);
            Assert.Equal("tip ", FreeText.Cleaned($"tip {half}"));
        }
    }

    [Fact]
    public void Letters_are_counted_as_people_count_them()
    {
        Assert.Equal(1, FreeText.Letters("e\u0301"));
        Assert.Equal(1, FreeText.Letters("\U0001F468\u200D\U0001F469\u200D\U0001F467"));
        Assert.Equal(0, FreeText.Letters(""));
    }

    [Theory]
    [InlineData(9, true)]
    [InlineData(10, true)]
    [InlineData(11, false)]
    public void Over_its_limit_a_text_is_refused_with_its_count(int letters, bool kept)
    {
        var refusal = FreeText.RefusalOf("Why", string.Concat(Enumerable.Repeat("e\u0301", letters)), 10);
        Assert.Equal(kept, refusal is null);
        if (!kept)
            Assert.Contains("11 letters; at most 10", refusal!.Words, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Bent", "Bent")]
    [InlineData("Be\0nt", "Bent")]
    [InlineData("Cracked\n\U0001F44D", "Cracked\n\U0001F44D")]
    public void A_hold_is_never_refused_for_how_it_is_written(string text, string kept) =>
        Assert.Equal(kept, FreeText.Cleaned(text));

    [Theory]
    [InlineData("abc", 3, "abc")]
    [InlineData("abcd", 3, "abc")]
    [InlineData("ab\U0001F468", 3, "ab")]
    [InlineData("ab\U0001F468", 4, "ab\U0001F468")]
    [InlineData("a\U0001F468b", 3, "a\U0001F468")]
    [InlineData("", 0, "")]
    public void The_start_of_a_text_never_ends_in_half_a_character(string text, int most, string start)
    {
        Assert.Equal(start, FreeText.Start(text, most));
        Assert.Null(FreeText.FaultOf(FreeText.Start(text, most)));
    }
}
