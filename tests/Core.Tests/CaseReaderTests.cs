using FsCheck.Xunit;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Xunit;

namespace Keralith.Core.Tests;

public class CaseReaderTests
{
    [Theory]
    [InlineData("""{"format":"keralith.case/2","gear":{"family":"hook"}}""", "$.format")]
    [InlineData("""{"gear":{"family":"hook"}}""", "$.format")]
    [InlineData("""{"format":"keralith.case/1"}""", "$.gear")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"dog"}}""", "$.gear.family")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook","colour":7}}""", "$.gear.colour")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook","weight":"7 kg"}}""", "$.gear.weight")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook","size":"0 mm"}}""", "$.gear.size")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"alloy-chain-sling","legs":5}}""", "$.gear.legs")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"alloy-chain-sling","legs":1.5}}""", "$.gear.legs")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"shackle","pinType":"nail"}}""", "$.gear.pinType")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook"},"ruleBooks":[]}""", "$.ruleBooks")]
    [InlineData(
        """{"format":"keralith.case/1","gear":{"family":"hook"},"ruleBooks":["asme","asme"]}""",
        "$.ruleBooks[1]"
    )]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook"},"kind":"weekly"}""", "$.kind")]
    [InlineData("""{"format":"keralith.case/1","format":"keralith.case/1","gear":{"family":"hook"}}""", "$.format")]
    [InlineData("""[]""", "$")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook","maker":"\ud800"}}""", "$")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook"},"\udc00":1}""", "$")]
    [InlineData(
        """{"format":"keralith.case/1","gear":{"family":"sling-kit","roster":{"members":0}}}""",
        "$.gear.roster.members"
    )]
    [InlineData(
        """{"format":"keralith.case/1","gear":{"family":"sling-kit","roster":{"members":8,"links":[9]}}}""",
        "$.gear.roster"
    )]
    [InlineData(
        """{"format":"keralith.case/1","gear":{"family":"sling-kit"},"limits":[{"source":"site","criterion":"kit.complete","count":3}]}""",
        "$.limits[0].criterion"
    )]
    [InlineData(
        """{"format":"keralith.case/1","gear":{"family":"hook"},"limits":[{"source":"book","criterion":"hook.throat","percent":3}]}""",
        "$.limits[0].source"
    )]
    public void A_fault_in_the_case_is_named_by_its_path(string json, string path)
    {
        var result = CaseReader.Read(json);
        Assert.Null(result.Value);
        Assert.Contains(path, result.Faults.Select(f => f.Path));
    }

    [Theory]
    [InlineData("""{"criterion":"hook.crack","part":"hook"}""", "answer")]
    [InlineData("""{"criterion":"hook.crack","part":"hook","answer":"maybe"}""", "answer")]
    [InlineData("""{"criterion":"hook.crack","part":"hook","answer":"no","value":"3 mm"}""", "value")]
    [InlineData("""{"criterion":"hook.throat","part":"hook","value":"-3 mm"}""", "value")]
    [InlineData("""{"criterion":"hook.throat","part":"hook","value":41.5}""", "value")]
    [InlineData("""{"criterion":"hook.throat","part":"hook","value":"41 mm","uncertainty":"-1 mm"}""", "uncertainty")]
    [InlineData(
        """{"criterion":"hook.throat","part":"hook","value":"41 mm","baseline":"40 mm","baselineBasis":"guess"}""",
        "baselineBasis"
    )]
    [InlineData("""{"criterion":"hook.latches","part":"hook","answer":"no"}""", "criterion")]
    [InlineData("""{"criterion":"hook.fit","part":"hook","answer":"no"}""", "criterion")]
    [InlineData("""{"part":"hook","answer":"no"}""", "criterion")]
    [InlineData("""{"criterion":"hook.crack","answer":"no"}""", "part")]
    public void A_fault_in_an_answer_is_named_by_its_path(string answer, string field) =>
        Assert.Contains(
            $"$.answers[0].{field}",
            CaseReader.Read(Given.Json(Given.OneHook, answer)).Faults.Select(f => f.Path)
        );

    [Theory]
    [InlineData("""{"source":"owner","criterion":"hook.throat","percent":3}""", "source")]
    [InlineData("""{"source":"site","criterion":"hook.throat"}""", "percent")]
    [InlineData("""{"source":"site","criterion":"hook.throat","percent":3,"count":2}""", "count")]
    [InlineData("""{"source":"site","criterion":"hook.throat","percent":-3}""", "percent")]
    [InlineData("""{"source":"site","criterion":"hook.crack","percent":3}""", "criterion")]
    [InlineData("""{"source":"site","criterion":"hook.throat","count":3}""", "count")]
    public void A_fault_in_a_limit_is_named_by_its_path(string limit, string field) =>
        Assert.Contains(
            $"$.limits[0].{field}",
            CaseReader.Read(Given.Json(Given.OneHook, "", limits: limit)).Faults.Select(f => f.Path)
        );

    [Fact]
    public void The_longest_can_not_be_shorter_than_the_shortest() =>
        Assert.NotEmpty(
            CaseReader
                .Read(
                    Given.Json(
                        Given.TwoLegChain,
                        """{"criterion":"chain.leg-difference","part":"legs","value":"1499 mm","baseline":"1500 mm"}"""
                    )
                )
                .Faults
        );

    [Property]
    public bool No_text_makes_the_reader_throw(string? text) =>
        CaseReader.Read(text ?? string.Empty) is { Value: null, Faults.Count: > 0 };

    [Fact]
    public void Bytes_that_are_no_utf8_are_refused() =>
        Assert.Equal("$", Assert.Single(CaseReader.Read(new byte[] { 0x7B, 0xC3, 0x28, 0x7D }.AsMemory()).Faults).Path);

    [Fact]
    public void An_object_of_many_fields_names_each_unknown_one_and_each_twice()
    {
        var fields = string.Join(",", Enumerable.Range(0, 3000).Select(i => $"\"f{i % 2999}\":1"));
        var faults = CaseReader.Read($$"""{"format":"keralith.case/1","gear":{"family":"hook"},{{fields}}}""").Faults;
        Assert.Equal(3000, faults.Count);
        Assert.Contains(faults, f => f is { Path: "$.f0", Message: "the field stands twice" });
    }

    [Theory]
    [InlineData("8 members, 9 to 12 links", 8, 9, 12)]
    [InlineData("8 members", 8, null, null)]
    [InlineData("9 to 12 links", null, 9, 12)]
    [InlineData("1 member", 1, null, null)]
    public void A_roster_is_written_and_read_back(string text, int? members, int? least, int? most)
    {
        var roster = RosterValue.Read(text)!;
        Assert.Equal(new RosterValue(members, least, most), roster);
        Assert.Equal(roster, RosterValue.Read(roster.Text));
    }

    [Theory]
    [InlineData("")]
    [InlineData("8")]
    [InlineData("0 members")]
    [InlineData("12 to 9 links")]
    [InlineData("8 members and 3 links")]
    public void What_is_no_roster_is_refused(string text) => Assert.Null(RosterValue.Read(text));

    [Fact]
    public void Lines_are_judged_one_by_one_and_a_bad_one_says_why()
    {
        var output = new System.Buffers.ArrayBufferWriter<byte>();
        Assert.True(CaseLines.Judge("""{"format":"keralith.case/1","gear":{"family":"hook"}}"""u8.ToArray(), output));
        Assert.False(
            CaseLines.Judge("""{"format":"keralith.case/1","gear":{"family":"hook","size":"3"}}"""u8.ToArray(), output)
        );
        var lines = System.Text.Encoding.UTF8.GetString(output.WrittenSpan).Split('\n');
        Assert.Equal(3, lines.Length);
        Assert.StartsWith("{\"format\":\"keralith.verdict/1\"", lines[0], StringComparison.Ordinal);
        Assert.StartsWith("{\"error\":\"$.gear.size: ", lines[1], StringComparison.Ordinal);
    }
}
