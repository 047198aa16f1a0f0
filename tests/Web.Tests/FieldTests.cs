using System.Text.Encodings.Web;
using Keralith.Web.Pages.Shared;
using Microsoft.AspNetCore.Razor.TagHelpers;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>What a form asks stands in a label of its own, and what is wrong with an answer is read out with it.</summary>
public class FieldTests
{
    [Fact]
    public void A_field_has_its_words_above_it_and_its_hint_under_them() =>
        Assert.Equal(
            "<label class=\"field\">To whom <span class=\"hint\">A person</span> <input name=\"to\"></label>",
            Written(new Field { Label = "To whom", Hint = "A person" })
        );

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    public void No_hint_and_no_fault_leave_no_empty_lines(string? none) =>
        Assert.Equal(
            "<label class=\"field grow\">To whom<input name=\"to\"></label>",
            Written(
                new Field
                {
                    Label = "To whom",
                    Hint = none,
                    Fault = none,
                    Place = "grow",
                }
            )
        );

    [Fact]
    public void What_is_wrong_stands_below_and_is_read_out_with_the_field() =>
        Assert.Equal(
            "<label class=\"field\">To whom<input name=\"to\" aria-invalid=\"true\" aria-describedby=\"fault-to\">"
                + "<span class=\"fault\" id=\"fault-to\">Nobody&#x27;s &lt;name&gt;</span></label>",
            Written(new Field { Label = "To whom", Fault = "Nobody's <name>" })
        );

    [Fact]
    public void Words_that_the_eye_does_not_need_are_read_out_alone() =>
        Assert.Equal(
            "<label class=\"field\"><span class=\"sr-only\">Order</span><input name=\"to\"></label>",
            Written(new Field { Label = "Order", Unseen = true })
        );

    [Fact]
    public void A_box_to_tick_has_its_words_beside_it() =>
        Assert.Equal(
            "<label class=\"ticked mr-5\"><input name=\"to\"> a &amp; b</label>",
            Written(new Tick { Label = "a & b", Place = "mr-5" })
        );

    private static string Written(TagHelper helper)
    {
        var given = new TagHelperAttributeList { { "name", "to" } };
        var output = new TagHelperOutput("input", [.. given], (_, _) => Task.FromResult<TagHelperContent>(null!))
        {
            TagMode = TagMode.StartTagOnly,
        };
        helper.Process(new TagHelperContext(given, new Dictionary<object, object>(), "one"), output);
        using var writer = new StringWriter();
        output.WriteTo(writer, HtmlEncoder.Default);
        return writer.ToString();
    }
}
