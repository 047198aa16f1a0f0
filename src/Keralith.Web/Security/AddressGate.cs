using Keralith.Core.Formats;
using Keralith.Web.Api;

namespace Keralith.Web.Security;

/// <summary>Refuses addresses with text that is none: no page, file or program looks for it.</summary>
internal sealed class AddressGate(RequestDelegate next)
{
    /// <summary>Looks at the address of every request.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        var request = context.Request;
        var fault =
            FreeText.FaultOf(request.Path.Value ?? string.Empty) is not null
            || request.Query.Any(q =>
                FreeText.FaultOf(q.Key) is not null
                || q.Value.Any(v => v is not null && FreeText.FaultOf(v) is not null)
            );
        if (!fault)
        {
            await next(context);
            return;
        }

        const string Words = "The address holds a character that is no text.";
        if (request.Path.StartsWithSegments("/api"))
        {
            await ApiBody.RefuseAsync(context, StatusCodes.Status400BadRequest, [new Fault("$", Words)]);
            return;
        }

        context.Items[TextGate.Item] = Words;
        context.Response.StatusCode = StatusCodes.Status400BadRequest;
    }
}
