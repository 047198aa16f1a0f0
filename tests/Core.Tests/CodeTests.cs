using System.Reflection;
using Keralith.Core.Judgement;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Values have codes that files and databases keep; each stands beside its value, and none is used twice.</summary>
public class CodeTests
{
    public static TheoryData<Type> Coded { get; } =
    [
        .. typeof(Judge)
            .Assembly.GetTypes()
            .Where(t => t.IsEnum && t.GetFields().Any(f => f.IsDefined(typeof(CodeAttribute), false))),
    ];

    [Theory]
    [MemberData(nameof(Coded))]
    public void Every_value_of_a_coded_enum_has_a_code_of_its_own_that_leads_back_to_it(Type type) =>
        typeof(CodeTests)
            .GetMethod(nameof(LeadsBack), BindingFlags.NonPublic | BindingFlags.Static)!
            .MakeGenericMethod(type)
            .Invoke(null, null);

    private static void LeadsBack<T>()
        where T : struct, Enum
    {
        var codes = Enum.GetValues<T>().Select(Code.Of).ToList();
        Assert.Equal(codes.Count, codes.Distinct().Count());
        Assert.All(codes, c => Assert.Matches("^([a-z]+(-[a-z]+)*|[<>]=?)$", c));
        Assert.All(Enum.GetValues<T>(), v => Assert.Equal(v, Code.Parse<T>(Code.Of(v))));
        Assert.All(Enum.GetValues<T>(), v => Assert.Equal(Code.Of(v), Code.Json(v).Value));
    }

    [Fact]
    public void What_is_no_code_is_no_value()
    {
        Assert.Null(Code.Find<VerdictKind>("perhaps"));
        Assert.Null(Code.Find<VerdictKind>(null));
        Assert.Throws<FormatException>(() => Code.Parse<VerdictKind>("Fit"));
        Assert.Throws<ArgumentOutOfRangeException>(() => Code.Of((VerdictKind)99));
        Assert.Throws<ArgumentOutOfRangeException>(() => Code.Of((VerdictKind)(-1)));
        Assert.Throws<ArgumentOutOfRangeException>(() => Code.Json((VerdictKind)5));
    }
}
