using SteadyLintel.Step;

namespace SteadyLintel.Bench;

/// <summary>The shapes of a tower's elements: boxes, I sections with fillets, circles, mapped chairs, small breps.</summary>
internal sealed class TowerShapes
{
    private readonly Func<string, string, int> _add;
    private readonly int _context,
        _world,
        _up,
        _chair;

    public TowerShapes(Func<string, string, int> add, int context, int world, int up)
    {
        (_add, _context, _world, _up) = (add, context, world, up);
        int seat = Extrude(Rectangle(500, 500), 450);
        _chair = add("IFCREPRESENTATIONMAP", $"#{world},#{Representation("SweptSolid", seat)}");
    }

    /// <summary>The shape of an element by its number.</summary>
    public int Next(int n) =>
        (n % 10) switch
        {
            < 5 => Definition("SweptSolid", Extrude(Rectangle(4000 + (n % 700), 240), 3200)),
            < 7 => Definition(
                "SweptSolid",
                Extrude(_add("IFCISHAPEPROFILEDEF", $".AREA.,'HEA 300',#{Axis2(0, 0)},300.,290.,8.5,14.,27.,$,$"), 3600)
            ),
            7 => Definition(
                "SweptSolid",
                Extrude(_add("IFCCIRCLEPROFILEDEF", $".AREA.,$,#{Axis2(0, 0)},{50 + (n % 30)}."), 3000)
            ),
            8 => Definition(
                "MappedRepresentation",
                _add(
                    "IFCMAPPEDITEM",
                    $"#{_chair},#{_add("IFCCARTESIANTRANSFORMATIONOPERATOR3D", $"$,$,#{Point(n % 100, 0, 0)},$,$")}"
                )
            ),
            _ => Definition("Brep", Wedge(n)),
        };

    /// <summary>A door's opening across a wall.</summary>
    public int Opening() => Definition("SweptSolid", Extrude(Rectangle(900, 600), 2100));

    private int Definition(string type, int item) =>
        _add("IFCPRODUCTDEFINITIONSHAPE", $"$,$,(#{Representation(type, item)})");

    private int Representation(string type, int item) =>
        _add("IFCSHAPEREPRESENTATION", $"#{_context},'Body','{type}',(#{item})");

    private int Extrude(int profile, double depth) =>
        _add("IFCEXTRUDEDAREASOLID", $"#{profile},#{_world},#{_up},{StepNumber.Format(depth)}");

    private int Rectangle(double x, double y) =>
        _add("IFCRECTANGLEPROFILEDEF", $".AREA.,$,#{Axis2(x / 2, 0)},{StepNumber.Format(x)},{StepNumber.Format(y)}");

    private int Axis2(double x, double y) =>
        _add(
            "IFCAXIS2PLACEMENT2D",
            $"#{_add("IFCCARTESIANPOINT", $"({StepNumber.Format(x)},{StepNumber.Format(y)})")},$"
        );

    private int Point(double x, double y, double z) =>
        _add("IFCCARTESIANPOINT", $"({StepNumber.Format(x)},{StepNumber.Format(y)},{StepNumber.Format(z)})");

    private int Wedge(int n)
    {
        double w = 500 + (n % 50);
        int[] p =
        [
            Point(0, 0, 0),
            Point(w, 0, 0),
            Point(w, 400, 0),
            Point(0, 400, 0),
            Point(0, 0, 300),
            Point(0, 400, 300),
        ];
        int[][] faces =
        [
            [0, 3, 2, 1],
            [0, 4, 5, 3],
            [1, 2, 5, 4],
            [0, 1, 4],
            [3, 5, 2],
        ];
        var made = faces.Select(f =>
            _add(
                "IFCFACE",
                $"(#{_add("IFCFACEOUTERBOUND", $"#{_add("IFCPOLYLOOP", "(" + string.Join(",", f.Select(i => "#" + p[i])) + ")")},.T.")})"
            )
        );
        return _add(
            "IFCFACETEDBREP",
            $"#{_add("IFCCLOSEDSHELL", "(" + string.Join(",", made.Select(m => "#" + m)) + ")")}"
        );
    }
}
