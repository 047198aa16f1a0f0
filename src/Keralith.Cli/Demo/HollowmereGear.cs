using Keralith.Data;

namespace Keralith.Cli.Demo;

/// <summary>The first pieces of the yard, one line each: slings, shackles, and one of most other families.</summary>
public sealed partial class Hollowmere
{
    private void Slings(List<Store> stores)
    {
        // One line a piece: make, legs, lower end, reach, store, months since new, days since the last periodic, and
        // what is special.
        for (var i = 0; i < 35; i++)
        {
            var legs = (i % 5) switch
            {
                0 or 3 => 1,
                1 or 2 => 2,
                _ => i % 2 == 0 ? 4 : 3,
            };
            var end =
                i % 7 == 3 ? "link"
                : i % 11 == 5 ? "shackle"
                : "hook";
            var piece = DemoPiece.Sling(
                Mark(i + 1),
                _scenario.Chain[(i * 5) % _scenario.Chain.Length],
                legs,
                end,
                4 + (i % 4 * 2),
                _random
            );
            if (end == "shackle")
                piece.With("pinType", "screw");
            Hang(piece, stores[i % 3], i / 3);
            if (i == 17)
                piece.With("serviceClass", "severe");
            Tell(piece, i);
        }
    }

    private void Shackles(List<Store> stores)
    {
        for (var i = 0; i < 26; i++)
        {
            var piece = DemoPiece.Shackle(
                Mark(i + 41),
                _scenario.Shackles[(i * 5) % _scenario.Shackles.Length],
                (i % 4) switch
                {
                    3 => "bolt",
                    _ => "screw",
                },
                _random
            );
            Hang(piece, stores[i % 3], 12 + (i / 3));
            Tell(piece, i + 40);
        }
    }

    private void Others(List<Store> stores)
    {
        for (var i = 0; i < _scenario.Others.Length; i++)
        {
            var make = _scenario.Others[i];
            var piece = DemoPiece.Of(Mark(i + 71), make, _random);
            Hang(piece, stores[i % 3], 22 + (i / 3));
            switch (make.Family)
            {
                case "wire-rope-sling" when make.Fields["legs"] == "1" && make.Fields["body"] == "strand-laid": // Drawn down year by year.
                    InUse(piece.Wears("leg-1", "rope.diameter", 0.27m), 36, 40);
                    break;
                case "eye-nut": // Chemicals in the cleaning shed: held until the maker has said.
                    Bought(piece.With("meets:acid", "true"), 9);
                    break;
                case "web-sling" when make.Rated == "3 t": // A colour that says two tonnes on a tag that says three.
                    Bought(piece, 16);
                    break;
                case "powered-hoist":
                    InUse(piece, 26, 8);
                    break;
                case "lever-hoist": // A pipe on the lever.
                    InUse(piece, 30, 15, ("handle", "hoist.handle"));
                    break;
                default:
                    // Hoists, hooks and gear below the hook are looked at each month as well: most were within the last weeks.
                    InUse(piece, 20 + (i % 5 * 3), 5 + (i * 29 % 25));
                    break;
            }
        }
    }
}
