using System.Xml.Linq;
using Keralith.Data;
using Microsoft.AspNetCore.DataProtection.Repositories;

namespace Keralith.Web.Security;

/// <summary>Keeps the keys that seal cookies and forms in the database, so that any node reads what another sealed.</summary>
internal sealed class DatabaseKeys(KeyStore keys) : IXmlRepository
{
    public IReadOnlyCollection<XElement> GetAllElements() => keys.All().Select(XElement.Parse).ToList();

    public void StoreElement(XElement element, string friendlyName) =>
        keys.Add(friendlyName, element.ToString(SaveOptions.DisableFormatting));
}
