using System.Text.Json;
using Keralith.Core.Gear;

namespace Keralith.Core.Formats;

/// <summary>Reads and writes the <c>gear</c> object of the file formats.</summary>
internal static class GearReader
{
    /// <summary>Reads a gear object; null when its family is not known. Faults are added with their paths.</summary>
    /// <param name="fields">The object.</param>
    /// <param name="beside">Fields of the object that are no attributes and are read elsewhere.</param>
    public static GearPiece? Read(JsonFields fields, params ReadOnlySpan<string> beside)
    {
        GearFamily? family = null;
        if (fields.RequiredText("family") is { } code && (family = GearFamilies.Find(code)) is null)
        {
            fields.Refuse("family", $"found \"{code}\", expected one of {string.Join(", ", GearFamilies.All)}");
        }

        var values = new List<KeyValuePair<string, AttributeValue>>(fields.Count);
        for (var i = 0; i < fields.Count; i++)
        {
            var name = fields.NameAt(i);
            if (name == "family" || beside.Contains(name))
                continue;
            if (GearAttributes.Find(name) is not { } definition)
            {
                fields.Refuse(name, "unknown field, expected family and attributes of the gear");
                continue;
            }

            var value = Value(fields, definition);
            if (!value.Ok)
                fields.Refuse(name, value.Fault!);
            else if (family is not null && GearPiece.FaultOf(family, name, value.Value) is { } fault)
                fields.Refuse(name, fault);
            else
                values.Add(new(name, value.Value));
        }

        return family is null ? null : new(family, values);
    }

    private static Checked<AttributeValue> Value(JsonFields fields, AttributeDefinition definition)
    {
        var element = fields.Take(definition.Name)!.Value;
        switch (definition.Kind)
        {
            case AttributeKind.Flag when element.ValueKind is JsonValueKind.True or JsonValueKind.False:
                return new FlagValue(element.GetBoolean());
            case AttributeKind.Flag:
                return new Refusal($"found {JsonFields.Kind(element)}, expected true or false");
            case AttributeKind.Whole when element.ValueKind == JsonValueKind.Number:
            case AttributeKind.Number when element.ValueKind == JsonValueKind.Number:
                return definition.Read(element.GetRawText());
            case AttributeKind.Whole or AttributeKind.Number:
                return new Refusal($"found {JsonFields.Kind(element)}, expected a number");
            case AttributeKind.Roster:
                var roster = new JsonFields(element, fields.PlaceOf(definition.Name));
                var members = roster.Whole("members", 1);
                var links = new List<int?>();
                foreach (var (link, _) in roster.Array("links"))
                    links.Add(
                        link.ValueKind == JsonValueKind.Number && link.TryGetInt32(out var n) && n >= 1 ? n : null
                    );
                roster.RefuseUnread("members, links");
                return links.Count is not (0 or 2) || links.Contains(null) || (links.Count == 2 && links[0] > links[1])
                    ? new Refusal("expected links as [least, most]")
                    : new RosterValue(members, links.Count == 2 ? links[0] : null, links.Count == 2 ? links[1] : null);
            default:
                return element.ValueKind == JsonValueKind.String
                    ? definition.Read(JsonWords.TextOf(element))
                    : new Refusal(
                        $"found {JsonFields.Kind(element)}, expected text{(definition.HasUnit ? " with a unit" : string.Empty)}"
                    );
        }
    }
}
