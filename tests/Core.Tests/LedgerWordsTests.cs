using Keralith.Core.Ledger;
using Xunit;

namespace Keralith.Core.Tests;

public class LedgerWordsTests
{
    /// <summary>The kind of every record that has one fixed kind: a record made without its values still knows it.</summary>
    private static IEnumerable<string> Kinds =>
        typeof(LedgerRecord)
            .Assembly.GetTypes()
            .Where(t => t is { IsAbstract: false } && t.IsSubclassOf(typeof(LedgerRecord)))
            .Select(t =>
            {
                var made = t.GetConstructors()[0];
                var values = made.GetParameters()
                    .Select(p => p.ParameterType.IsValueType ? Activator.CreateInstance(p.ParameterType) : null)
                    .ToArray();
                return ((LedgerRecord)made.Invoke(values)).Kind;
            })
            .Where(k => !k.StartsWith("lift.", StringComparison.Ordinal));

    [Fact]
    public void Every_kind_of_entry_has_words_and_no_words_are_of_no_kind()
    {
        var kinds = Kinds.Distinct().Order(StringComparer.Ordinal).ToList();
        Assert.True(kinds.Count > 40);
        Assert.Equal(kinds, LedgerWords.All.Select(w => w.Kind).Order(StringComparer.Ordinal));
        Assert.All(kinds, k => Assert.NotEqual(k, LedgerWords.Of(k)));
    }

    [Theory]
    [InlineData("lift.checked", "lift checked")]
    [InlineData("lift.called-off", "lift called off")]
    [InlineData("something.else", "something.else")]
    public void A_lifts_steps_say_themselves(string kind, string words) => Assert.Equal(words, LedgerWords.Of(kind));
}
