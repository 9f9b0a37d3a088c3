using System.Globalization;
using System.Text;

namespace SteadyLintel.Tests;

/// <summary>Writes the instances of an advanced brep, from #1000 on; the brep itself is #100.</summary>
internal sealed class BrepText
{
    private readonly StringBuilder _text = new();
    private readonly List<int> _faces = [];
    private int _next = 1000;

    /// <summary>Adds an instance.</summary>
    public int Add(string instance)
    {
        _text.Append(CultureInfo.InvariantCulture, $"#{_next}={instance};");
        return _next++;
    }

    public int Point(double x, double y, double z) => Add($"IFCCARTESIANPOINT(({N(x)},{N(y)},{N(z)}))");

    public int Direction(double x, double y, double z) => Add($"IFCDIRECTION(({N(x)},{N(y)},{N(z)}))");

    /// <summary>A placement at a point with Z along an axis.</summary>
    public int Place(double x, double y, double z, double ax = 0, double ay = 0, double az = 1) =>
        Add($"IFCAXIS2PLACEMENT3D(#{Point(x, y, z)},#{Direction(ax, ay, az)},$)");

    public int Vertex(double x, double y, double z) => Add($"IFCVERTEXPOINT(#{Point(x, y, z)})");

    public int Edge(int from, int to, int curve, bool same = true) =>
        Add($"IFCEDGECURVE(#{from},#{to},#{curve},{(same ? ".T." : ".F.")})");

    /// <summary>A straight edge.</summary>
    public int Straight(int from, int to) =>
        Edge(from, to, Add($"IFCLINE(#{Point(0, 0, 0)},#{Add($"IFCVECTOR(#{Direction(1, 0, 0)},1.)")})"));

    /// <summary>A face on a surface; each loop is its edges, negative ones run backward.</summary>
    public void Face(int surface, bool same, params int[][] loops)
    {
        var bounds = loops
            .Select(
                (loop, i) =>
                    Add(
                        $"{(i == 0 ? "IFCFACEOUTERBOUND" : "IFCFACEBOUND")}(#{Add($"IFCEDGELOOP(({string.Join(",", loop.Select(e => "#" + Add($"IFCORIENTEDEDGE(*,*,#{Math.Abs(e)},{(e > 0 ? ".T." : ".F.")})")))}))")},.T.)"
                    )
            )
            .ToList();
        _faces.Add(
            Add(
                $"IFCADVANCEDFACE(({string.Join(",", bounds.Select(b => "#" + b))}),#{surface},{(same ? ".T." : ".F.")})"
            )
        );
    }

    /// <summary>The whole text.</summary>
    public string Brep() =>
        $"{_text}#99=IFCCLOSEDSHELL(({string.Join(",", _faces.Select(f => "#" + f))}));#100=IFCADVANCEDBREP(#99);";

    public static string N(double value) => Step.StepNumber.Format(value);
}
