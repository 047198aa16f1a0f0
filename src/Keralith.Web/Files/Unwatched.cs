using Microsoft.Extensions.FileProviders;
using Microsoft.Extensions.Primitives;

namespace Keralith.Web.Files;

/// <summary>The application's own files, which never change while it runs: nothing watches them.</summary>
internal sealed class Unwatched(IFileProvider files) : IFileProvider
{
    public IDirectoryContents GetDirectoryContents(string subpath) => files.GetDirectoryContents(subpath);

    public IFileInfo GetFileInfo(string subpath) => files.GetFileInfo(subpath);

    public IChangeToken Watch(string filter) => NullChangeToken.Singleton;
}
