using System.Text.Json;
using Keralith.Core.Formats;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Names, codes and figures that come again are kept by the reader; what is read is always what was written.</summary>
public class JsonWordsTests
{
    public static TheoryData<string> Words =>
        [
            "a",
            "leg-1/hook",
            "1-3/8 in",
            "a tab\tand a \"quote\" and a back\\slash",
            "\u00BD in",
            "gr\u00FCn",
            "\U0001F600",
            new string('x', 39),
            new string('x', 40),
            new string('x', 41),
            new string('x', 200),
        ];

    [Theory]
    [MemberData(nameof(Words))]
    public void What_is_read_is_what_was_written_the_first_time_and_again(string word)
    {
        for (var time = 0; time < 3; time++)
            Assert.Equal(word, Maker(JsonSerializer.Serialize(word)));
    }

    [Theory]
    [MemberData(nameof(Words))]
    public void An_unknown_field_is_named_as_it_was_written_the_first_time_and_again(string word)
    {
        for (var time = 0; time < 3; time++)
        {
            var read = CaseReader.Read($"{{\"gear\":{{\"family\":\"shackle\"}},{JsonSerializer.Serialize(word)}:1}}");
            Assert.Contains(read.Faults, f =>
                f.Path == $"$.{word}" && f.Message.StartsWith("unknown field", StringComparison.Ordinal)
            );
        }
    }

    [Fact]
    public void An_escaped_word_is_the_word_it_stands_for()
    {
        Assert.Equal("tag", Maker("\"tag\""));
        Assert.Equal("tag", Maker("\"t\\u0061g\""));
        Assert.Equal("t\\u0061g", Maker("\"t\\\\u0061g\""));
    }

    [Fact]
    public void However_many_words_there_are_none_is_taken_for_another()
    {
        for (var i = 0; i < 20_000; i++)
            Assert.Equal($"HM-{i}", Maker($"\"HM-{i}\""));
    }

    [Fact]
    public void Many_may_read_at_once() =>
        Parallel.For(0, 40_000, i =>
            Assert.Equal($"{(char)('a' + (i % 26))}-{i % 400}", Maker($"\"{(char)('a' + (i % 26))}-{i % 400}\""))
        );

    private static string? Maker(string json)
    {
        var read = CaseReader.Read(
            $"{{\"format\":\"keralith.case/1\",\"gear\":{{\"family\":\"shackle\",\"maker\":{json}}}}}"
        );
        return read.Value!.Gear.Text("maker");
    }
}
