using ArchUnitNET.Domain;
using ArchUnitNET.Loader;
using Keralith.Core.Judgement;
using Keralith.Data;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Arrows run one way: Web and Cli to Data to Core, and Core to nothing but the base library.</summary>
public class ArchitectureTests
{
    private static readonly Architecture Code = new ArchLoader()
        .LoadAssemblies(
            typeof(Judge).Assembly,
            typeof(Database).Assembly,
            typeof(WebHost).Assembly,
            typeof(Cli.Demo.Hollowmere).Assembly
        )
        .Build();

    [Theory]
    [InlineData("Keralith.Core", "Keralith.Data")]
    [InlineData("Keralith.Core", "Keralith.Web")]
    [InlineData("Keralith.Core", "Keralith.Cli")]
    [InlineData("Keralith.Core", "Npgsql")]
    [InlineData("Keralith.Core", "Microsoft.AspNetCore")]
    [InlineData("Keralith.Core", "System.IO.File")]
    [InlineData("Keralith.Data", "Keralith.Web")]
    [InlineData("Keralith.Data", "Keralith.Cli")]
    [InlineData("Keralith.Data", "Microsoft.AspNetCore")]
    [InlineData("Keralith.Web", "Keralith.Cli")]
    public void No_arrow_runs_against_the_layers(string from, string to)
    {
        var wrong = Code
            .Types.Where(t => t.FullName.StartsWith(from + ".", StringComparison.Ordinal))
            .SelectMany(t => t.Dependencies)
            .Where(d => d.Target.FullName.StartsWith(to, StringComparison.Ordinal))
            .Select(d => $"{d.Origin.FullName} -> {d.Target.FullName}")
            .Distinct()
            .ToList();
        Assert.Empty(wrong);
    }

    [Fact]
    public void Core_asks_neither_the_clock_nor_chance()
    {
        var core = Code.Types.Where(t => t.FullName.StartsWith("Keralith.Core.", StringComparison.Ordinal)).ToList();
        Assert.True(core.Count > 50);
        var calls = core.SelectMany(t => t.Dependencies)
            .OfType<ArchUnitNET.Domain.Dependencies.MethodCallDependency>()
            .Select(d => d.TargetMember.FullName)
            .ToList();
        Assert.DoesNotContain(calls, c =>
            c.Contains("::get_Now", StringComparison.Ordinal)
            || c.Contains("::get_UtcNow", StringComparison.Ordinal)
            || c.Contains("::get_Today", StringComparison.Ordinal)
        );
        Assert.DoesNotContain(core.SelectMany(t => t.Dependencies), d =>
            d.Target.FullName is "System.Random" or "System.TimeProvider"
        );
    }

    [Fact]
    public void Core_references_the_base_library_alone() =>
        Assert.All(typeof(Judge).Assembly.GetReferencedAssemblies(), a =>
            Assert.StartsWith("System.", a.Name, StringComparison.Ordinal)
        );
}
