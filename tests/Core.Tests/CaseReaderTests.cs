using FsCheck.Xunit;
using Keralith.Core.Formats;
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
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook"},"ruleBooks":["asme","asme"]}""", "$.ruleBooks[1]")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook"},"kind":"weekly"}""", "$.kind")]
    [InlineData("""{"format":"keralith.case/1","format":"keralith.case/1","gear":{"family":"hook"}}""", "$.format")]
    [InlineData("""[]""", "$")]
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
    [InlineData("""{"criterion":"hook.throat","part":"hook","value":"41 mm","baseline":"40 mm","baselineBasis":"guess"}""", "baselineBasis")]
    [InlineData("""{"criterion":"hook.latches","part":"hook","answer":"no"}""", "criterion")]
    [InlineData("""{"criterion":"hook.fit","part":"hook","answer":"no"}""", "criterion")]
    [InlineData("""{"part":"hook","answer":"no"}""", "criterion")]
    [InlineData("""{"criterion":"hook.crack","answer":"no"}""", "part")]
    public void A_fault_in_an_answer_is_named_by_its_path(string answer, string field) =>
        Assert.Contains($"$.answers[0].{field}", CaseReader.Read(Given.Json(Given.OneHook, answer)).Faults.Select(f => f.Path));

    [Theory]
    [InlineData("""{"source":"owner","criterion":"hook.throat","percent":3}""", "source")]
    [InlineData("""{"source":"site","criterion":"hook.throat"}""", "percent")]
    [InlineData("""{"source":"site","criterion":"hook.throat","percent":3,"count":2}""", "count")]
    [InlineData("""{"source":"site","criterion":"hook.throat","percent":-3}""", "percent")]
    [InlineData("""{"source":"site","criterion":"hook.crack","percent":3}""", "criterion")]
    [InlineData("""{"source":"site","criterion":"hook.throat","count":3}""", "count")]
    public void A_fault_in_a_limit_is_named_by_its_path(string limit, string field) =>
        Assert.Contains($"$.limits[0].{field}", CaseReader.Read(Given.Json(Given.OneHook, "", limits: limit)).Faults.Select(f => f.Path));

    [Fact]
    public void The_longest_can_not_be_shorter_than_the_shortest() =>
        Assert.NotEmpty(CaseReader.Read(Given.Json(Given.TwoLegChain, """{"criterion":"chain.leg-difference","part":"legs","value":"1499 mm","baseline":"1500 mm"}""")).Faults);

    [Property]
    public bool No_text_makes_the_reader_throw(string? text) => CaseReader.Read(text ?? string.Empty) is { Value: null, Faults.Count: > 0 };
}
