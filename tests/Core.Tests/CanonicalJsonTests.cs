using Keralith.Core.Ledger;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Canonical JSON by RFC 8785, against its own test vectors; and the chain it is hashed into.</summary>
public class CanonicalJsonTests
{
    /// <summary>RFC 8785, appendix B.</summary>
    [Theory]
    [InlineData(0x0000000000000000, "0")]
    [InlineData(0x8000000000000000, "0")]
    [InlineData(0x0000000000000001, "5e-324")]
    [InlineData(0x8000000000000001, "-5e-324")]
    [InlineData(0x7fefffffffffffff, "1.7976931348623157e+308")]
    [InlineData(0xffefffffffffffff, "-1.7976931348623157e+308")]
    [InlineData(0x4340000000000000, "9007199254740992")]
    [InlineData(0xc340000000000000, "-9007199254740992")]
    [InlineData(0x4430000000000000, "295147905179352830000")]
    [InlineData(0x44b52d02c7e14af5, "9.999999999999997e+22")]
    [InlineData(0x44b52d02c7e14af6, "1e+23")]
    [InlineData(0x44b52d02c7e14af7, "1.0000000000000001e+23")]
    [InlineData(0x444b1ae4d6e2ef4e, "999999999999999700000")]
    [InlineData(0x444b1ae4d6e2ef4f, "999999999999999900000")]
    [InlineData(0x444b1ae4d6e2ef50, "1e+21")]
    [InlineData(0x3eb0c6f7a0b5ed8c, "9.999999999999997e-7")]
    [InlineData(0x3eb0c6f7a0b5ed8d, "0.000001")]
    [InlineData(0x41b3de4355555553, "333333333.3333332")]
    [InlineData(0x41b3de4355555554, "333333333.33333325")]
    [InlineData(0x41b3de4355555555, "333333333.3333333")]
    [InlineData(0x41b3de4355555556, "333333333.3333334")]
    [InlineData(0x41b3de4355555557, "333333333.33333343")]
    [InlineData(0xbecbf647612f3696, "-0.0000033333333333333333")]
    [InlineData(0x43143ff3c1cb0959, "1424953923781206.2")]
    public void A_number_is_written_in_its_shortest_digits_as_ECMAScript_lays_them_out(ulong bits, string text)
    {
        var value = BitConverter.UInt64BitsToDouble(bits);
        Assert.Equal(text, CanonicalJson.Number(value));
        Assert.Equal(value, double.Parse(text, System.Globalization.CultureInfo.InvariantCulture));
    }

    [Fact]
    public void What_is_no_number_is_refused()
    {
        Assert.Throws<ArgumentOutOfRangeException>(() => CanonicalJson.Number(double.NaN));
        Assert.Throws<ArgumentOutOfRangeException>(() => CanonicalJson.Number(double.PositiveInfinity));
    }

    /// <summary>RFC 8785, section 3.2.2.</summary>
    [Fact]
    public void The_RFCs_sample_comes_out_as_the_RFC_says() =>
        Assert.Equal(
            """{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\u000f\nA'B\"\\\\\"/"}""",
            CanonicalJson.Of(
                """
                {
                  "numbers": [333333333.33333329, 1E30, 4.50, 2e-3, 0.000000000000000000000000001],
                  "string": "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/",
                  "literals": [null, true, false]
                }
                """
            )
        );

    /// <summary>RFC 8785, section 3.2.3: by UTF-16 code units.</summary>
    [Fact]
    public void Members_stand_in_the_order_of_their_code_units()
    {
        var written = CanonicalJson.Of(
            """
            {
              "\u20ac": "Euro Sign", "\r": "Carriage Return", "\ufb33": "Hebrew Letter Dalet With Dagesh", "1": "One",
              "\ud83d\ude00": "Emoji: Grinning Face", "\u0080": "Control", "\u00f6": "Latin Small Letter O With Diaeresis"
            }
            """
        );
        string[] order = ["Carriage Return", "One", "Control", "Latin", "Euro", "Emoji", "Hebrew"];
        var at = order.Select(o => written.IndexOf(o, StringComparison.Ordinal)).ToList();
        Assert.Equal(at.Order(), at);
        Assert.DoesNotContain(-1, at);
    }

    [Fact]
    public void An_entry_of_the_first_form_still_verifies_and_can_not_pass_for_one_of_the_other()
    {
        // As the first version of the chain wrote it.
        var first = new LedgerEntry(
            1,
            new(2026, 1, 2, 3, 4, 5, TimeSpan.Zero),
            "inspector",
            "piece.held",
            "HM-1",
            """{"cause":"doubt","reason":"Bow > 5 %"}""",
            LedgerChain.Beginning,
            []
        )
        {
            Form = CanonicalForm.First,
        };
        first = first with { Hash = Hash(first) };
        Assert.Null(LedgerChain.Check(null, first));
        var next = LedgerChain.Seal(
            2,
            first.At.AddDays(1),
            "inspector",
            new PieceHeld("doubt", "Bent"),
            "HM-1",
            first.Hash
        );
        Assert.Equal(CanonicalForm.Rfc8785, next.Form);
        Assert.Null(LedgerChain.Check(first, next));
        Assert.NotNull(LedgerChain.Check(null, first with { Form = CanonicalForm.Rfc8785 }));
        Assert.NotNull(LedgerChain.Check(first, next with { Form = CanonicalForm.First }));
    }

    [Fact]
    public void The_same_record_after_another_has_another_hash()
    {
        var record = new PieceHeld("doubt", "Bent");
        var one = LedgerChain.Seal(2, DateTimeOffset.UnixEpoch, "crew", record, "HM-1", new byte[32]);
        var other = LedgerChain.Seal(
            2,
            DateTimeOffset.UnixEpoch,
            "crew",
            record,
            "HM-1",
            [.. Enumerable.Repeat((byte)1, 32)]
        );
        Assert.NotEqual(one.Hash, other.Hash);
        Assert.NotNull(LedgerChain.Check(null, one with { Number = 1, Previous = other.Previous }));
    }

    [Fact]
    public void Every_kind_of_entry_is_named_once()
    {
        var kinds = typeof(LedgerRecord).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(LedgerRecord))).ToList();
        Assert.True(kinds.Count >= 30);
        Assert.All(kinds, k => Assert.True(k.IsSealed, k.Name));
    }

    /// <summary>The hash of the first form, worked out here on its own.</summary>
    private static byte[] Hash(LedgerEntry entry)
    {
        var head =
            $$"""{"actor":"{{entry.Actor}}","at":"2026-01-02T03:04:05.000000Z","kind":"{{entry.Kind}}","number":1,"subject":"{{entry.Subject}}"}""";
        return System.Security.Cryptography.SHA256.HashData([
            .. entry.Previous,
            .. System.Text.Encoding.UTF8.GetBytes($"{head}\n{entry.Data}"),
        ]);
    }
}
