using Microsoft.AspNetCore.Http.Metadata;

namespace Keralith.Web.Security;

/// <summary>Says at once that what is sent is larger than its page takes, before any of it is read.</summary>
internal sealed class SizeGate(RequestDelegate next)
{
    /// <summary>The most a page takes that says nothing else, in bytes.</summary>
    public const long Usual = 2 * 1024 * 1024;

    public Task InvokeAsync(HttpContext context)
    {
        var most = context.GetEndpoint()?.Metadata.GetMetadata<IRequestSizeLimitMetadata>() is { } limit
            ? limit.MaxRequestBodySize
            : Usual;
        if (context.Request.ContentLength is not { } length || most is not { } bytes || length <= bytes)
            return next(context);
        context.Response.StatusCode = StatusCodes.Status413PayloadTooLarge;
        return Task.CompletedTask;
    }
}
