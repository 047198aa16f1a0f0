using System.Text.RegularExpressions;
using ArchUnitNET.Domain;
using ArchUnitNET.Domain.Dependencies;
using ArchUnitNET.Loader;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>
/// The plan of the house, held: arrows one way, no circles, decisions in Core, lines and methods that only get shorter.
/// </summary>
public partial class ArchitectureTests
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
    [InlineData("Keralith.Web", "Npgsql.NpgsqlCommand")]
    [InlineData("Keralith.Cli", "Npgsql")]
    public void No_arrow_runs_against_the_layers(string from, string to)
    {
        var wrong = Of(from)
            .SelectMany(t => t.Dependencies)
            .Where(d => d.Target.FullName.StartsWith(to, StringComparison.Ordinal))
            .Where(d => !AllowedToAsk(d))
            .Select(d => $"{d.Origin.FullName} -> {d.Target.FullName}")
            .Distinct()
            .ToList();
        Assert.Empty(wrong);

        // A probe of the database's health asks it one thing.
        static bool AllowedToAsk(ITypeDependency d) =>
            d.Origin.FullName.StartsWith("Keralith.Web.WebHost", StringComparison.Ordinal);
    }

    /// <summary>A folder of Core is what knows each other: between folders arrows run one way.</summary>
    [Fact]
    public void No_folders_of_Core_know_each_other_in_a_circle()
    {
        var arrows = Of("Keralith.Core")
            .SelectMany(t => t.Dependencies)
            .Select(d => (From: Folder(d.Origin.FullName), To: Folder(d.Target.FullName)))
            .Where(a => a.From.Length > 0 && a.To.Length > 0 && a.From != a.To)
            .Distinct()
            .ToLookup(a => a.From, a => a.To);
        Assert.True(arrows.Count > 5);
        Assert.All(arrows, a => Assert.DoesNotContain(a.Key, Reached(a.Key)));

        HashSet<string> Reached(string from)
        {
            var reached = new HashSet<string>();
            var open = new Stack<string>(arrows[from]);
            while (open.TryPop(out var next))
            {
                if (reached.Add(next))
                    foreach (var further in arrows[next])
                        open.Push(further);
            }

            return reached;
        }

        static string Folder(string name) =>
            name.StartsWith("Keralith.Core.", StringComparison.Ordinal) && name.Count(c => c == '.') >= 3
                ? name.Split('.')[2]
                : string.Empty;
    }

    [Fact]
    public void Core_asks_neither_the_clock_nor_chance()
    {
        var core = Of("Keralith.Core");
        Assert.True(core.Count > 50);
        var calls = core.SelectMany(t => t.Dependencies)
            .OfType<MethodCallDependency>()
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

    /// <summary>
    /// A worded refusal outside Core is a decision that slipped out. Files that are no files are the exception: what a
    /// file is, Core does not know.
    /// </summary>
    [Fact]
    public void Stores_word_no_refusal_of_their_own()
    {
        var worded = Lines("src/Keralith.Data", "*.cs")
            .Where(l => !l.File.Contains("/Exchange/", StringComparison.Ordinal))
            .Where(l => l.Text.Contains("new Refusal(", StringComparison.Ordinal))
            .Where(l => !l.Text.Contains("stands twice", StringComparison.Ordinal));
        Assert.Equal([], worded.Select(l => $"{l.File}: {l.Text.Trim()}"));
    }

    /// <summary>How many refusals pages still word: those of what was typed. It only falls.</summary>
    [Fact]
    public void Pages_word_no_more_refusals_than_they_did()
    {
        var worded = Lines("src/Keralith.Web", "*.cs").Count(l => WordedInWeb().IsMatch(l.Text));
        Assert.InRange(worded, 1, 41);
    }

    /// <summary>Fields come from their tag helper. Two have markup in their words or their hint.</summary>
    [Fact]
    public void Pages_write_no_more_labels_of_fields_by_hand_than_they_did()
    {
        var written = Lines("src/Keralith.Web", "*.cshtml")
            .Count(l => l.Text.Contains("<label class=\"field", StringComparison.Ordinal));
        Assert.InRange(written, 1, 2);
    }

    /// <summary>
    /// No rule of the trade by its words in SQL: lists of states, kinds and verdicts come from Core's definitions.
    /// </summary>
    [Fact]
    public void Queries_list_no_codes_that_Core_defines()
    {
        var listed = Lines("src/Keralith.Data", "*.cs").Where(l => CodesInSql().IsMatch(l.Text));
        Assert.Equal([], listed.Select(l => $"{l.File}: {l.Text.Trim()}"));
    }

    /// <summary>What differs between families and between books is data of theirs: no rule asks them by name.</summary>
    [Fact]
    public void No_rule_asks_a_family_or_a_book_by_its_name()
    {
        var names = GearFamilies
            .All.Select(f => f.Code)
            .Concat(RuleBookShelf.All.Select(b => b.Id))
            .Select(Regex.Escape);
        var asked = new Regex($"(Family|family|book|b)\\.(Code|Id) (==|!=|is|switch).*\"({string.Join('|', names)})\"");
        var found = Lines("src/Keralith.Core", "*.cs").Where(l => asked.IsMatch(l.Text));
        Assert.Equal([], found.Select(l => $"{l.File}: {l.Text.Trim()}"));
    }

    /// <summary>One clock: the site's. Only the machine's moment comes from outside, through TimeProvider.</summary>
    [Fact]
    public void Nobody_takes_the_day_from_UTC_or_from_the_machine()
    {
        var taken = new[] { "src/Keralith.Core", "src/Keralith.Data", "src/Keralith.Web" }
            .SelectMany(folder => Lines(folder, "*.cs"))
            .Where(l => DayFromElsewhere().IsMatch(l.Text));
        Assert.Equal([], taken.Select(l => $"{l.File}: {l.Text.Trim()}"));
    }

    /// <summary>The share of lines over 140 letters, by project, in tenths of a percent. It only falls.</summary>
    [Theory]
    [InlineData("src/Keralith.Core", 3)]
    [InlineData("src/Keralith.Data", 7)]
    [InlineData("src/Keralith.Web", 15)]
    [InlineData("src/Keralith.Cli", 6)]
    public void Lines_are_readable(string project, int most)
    {
        var lines = Lines(project, "*.cs")
            .Concat(Lines(project, "*.cshtml"))
            .Where(l => l.Text.Trim().Length > 0)
            .ToList();
        var share = 1000.0 * lines.Count(l => l.Text.Length > 140) / lines.Count;
        Assert.True(share <= most, $"{share:0.0} in a thousand lines are over 140 letters; {most} are allowed.");
    }

    /// <summary>Methods longer than a screen of 60 lines. Their number only falls.</summary>
    [Theory]
    [InlineData("src/Keralith.Core", 9)]
    [InlineData("src/Keralith.Data", 9)]
    [InlineData("src/Keralith.Web", 9)]
    public void Methods_fit_a_screen(string project, int most)
    {
        var longOnes = Sources(project, "*.cs").SelectMany(f => LongMethods(f, 60)).ToList();
        Assert.True(
            longOnes.Count <= most,
            $"{longOnes.Count} methods are over a screen:\n{string.Join('\n', longOnes)}"
        );
    }

    [Fact]
    public void Nothing_asked_for_by_an_address_goes_under_a_name_the_route_has_for_itself()
    {
        string[] taken = ["page", "handler", "area", "action", "controller"];
        var hidden =
            from model in typeof(WebHost).Assembly.GetTypes()
            where model.IsSubclassOf(typeof(PageModel))
            from handler in model.GetMethods()
            where handler.Name.StartsWith("On", StringComparison.Ordinal)
            from asked in handler.GetParameters()
            where taken.Contains(asked.Name) && !asked.IsDefined(typeof(FromQueryAttribute), inherit: true)
            select $"{model.Name}.{handler.Name}({asked.Name})";
        Assert.Empty(hidden);
    }

    private static List<IType> Of(string project) =>
        [.. Code.Types.Where(t => t.FullName.StartsWith(project + ".", StringComparison.Ordinal))];

    private static string Root()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "Keralith.slnx")))
            folder = folder.Parent;
        return folder?.FullName ?? throw new InvalidOperationException("The sources are not there.");
    }

    private static IEnumerable<string> Sources(string project, string pattern) =>
        Directory
            .EnumerateFiles(Path.Combine(Root(), project), pattern, SearchOption.AllDirectories)
            .Where(f => !NotSources().IsMatch(f));

    private static IEnumerable<(string File, string Text)> Lines(string project, string pattern) =>
        Sources(project, pattern)
            .SelectMany(f => File.ReadLines(f).Select(l => (Path.GetRelativePath(Root(), f).Replace('\\', '/'), l)));

    /// <summary>Methods and local functions longer than a screen.</summary>
    private static IEnumerable<string> LongMethods(string file, int most) =>
        CSharpSyntaxTree
            .ParseText(File.ReadAllText(file))
            .GetRoot()
            .DescendantNodes()
            .OfType<BaseMethodDeclarationSyntax>()
            .Select(m => (Name: (m as MethodDeclarationSyntax)?.Identifier.Text ?? "constructor", Span: Span(m)))
            .Where(m => m.Span > most)
            .Select(m => $"{Path.GetFileName(file)}: {m.Name} ({m.Span})");

    private static int Span(BaseMethodDeclarationSyntax method)
    {
        var span = method.GetLocation().GetLineSpan();
        return span.EndLinePosition.Line - span.StartLinePosition.Line + 1;
    }

    [GeneratedRegex(@"[/\\](bin|obj|node_modules|wwwroot)[/\\]")]
    private static partial Regex NotSources();

    [GeneratedRegex("(new Refusal\\(|Refuse\\(\\$?\")")]
    private static partial Regex WordedInWeb();

    [GeneratedRegex("in \\('(condemned|destroyed|frequent|return|fit|watch|initial|periodic|after-event)'")]
    private static partial Regex CodesInSql();

    [GeneratedRegex(
        "DateOnly\\.FromDateTime\\([^)]*(UtcDateTime|Now)|GetLocalNow|DateTime\\.(Now|Today|UtcNow)|DateTimeOffset\\.(Now|UtcNow)"
    )]
    private static partial Regex DayFromElsewhere();
}
