using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>Reads the path data of SVG 1.1 (W3C, section 8.3): all commands, relative and absolute.</summary>
internal ref struct SvgPathData(ReadOnlySpan<char> data)
{
    private readonly ReadOnlySpan<char> _data = data;
    private int _at;

    /// <summary>The outlines; what follows the first mistake is left out, as the standard has it.</summary>
    public static List<ShapePath> Read(string data) => new SvgPathData(data).Paths();

    private List<ShapePath> Paths()
    {
        var paths = new List<ShapePath>();
        var nodes = new List<PathNode>();
        var (at, start, arm) = (Point.Zero, Point.Zero, Point.Zero);
        var (command, before) = ('\0', '\0');
        void Finish(bool closed)
        {
            if (nodes.Count > 1) paths.Add(Closing(nodes, closed));
            nodes.Clear();
        }

        void Begin()
        {
            if (nodes.Count == 0) nodes.Add(new(at));
        }

        void Curve(Point c1, Point c2, Point to)
        {
            Begin();
            nodes[^1] = nodes[^1] with { Kind = NodeKind.Curve, Out = c1 - nodes[^1].At };
            nodes.Add(new(to, NodeKind.Curve, c2 - to));
            (at, arm) = (to, c2);
        }

        while (true)
        {
            Skip();
            if (_at >= _data.Length) break;
            if (char.IsAsciiLetter(_data[_at])) command = _data[_at++];
            else if (command is '\0' or 'z' or 'Z') break;
            var relative = char.IsAsciiLetterLower(command);
            var from = relative ? at : Point.Zero;
            var kind = char.ToUpperInvariant(command);
            double x, y, x1, y1, x2, y2;
            switch (kind)
            {
                case 'Z':
                    Finish(true);
                    at = start;
                    break;
                case 'M':
                    if (!Number(out x) || !Number(out y)) goto done;
                    Finish(false);
                    start = at = from + new Point(x, y);
                    command = relative ? 'l' : 'L';
                    break;
                case 'L' or 'H' or 'V':
                    (x, y) = (0, 0);
                    if (kind != 'V' && !Number(out x)) goto done;
                    if (kind != 'H' && !Number(out y)) goto done;
                    Begin();
                    at = new(kind == 'V' ? at.X : from.X + x, kind == 'H' ? at.Y : from.Y + y);
                    nodes.Add(new(at));
                    break;
                case 'C':
                    if (!Number(out x1) || !Number(out y1) || !Number(out x2) || !Number(out y2) || !Number(out x) || !Number(out y)) goto done;
                    Curve(from + new Point(x1, y1), from + new Point(x2, y2), from + new Point(x, y));
                    break;
                case 'S':
                    if (!Number(out x2) || !Number(out y2) || !Number(out x) || !Number(out y)) goto done;
                    Curve(before is 'C' or 'S' ? (at * 2) - arm : at, from + new Point(x2, y2), from + new Point(x, y));
                    break;
                case 'Q' or 'T':
                    (x1, y1) = (0, 0);
                    if (kind == 'Q' && (!Number(out x1) || !Number(out y1))) goto done;
                    if (!Number(out x) || !Number(out y)) goto done;
                    var control = kind == 'Q' ? from + new Point(x1, y1) : before is 'Q' or 'T' ? (at * 2) - arm : at;
                    var to = from + new Point(x, y);
                    Curve(at.Toward(control, 2 / 3.0), to.Toward(control, 2 / 3.0), to);
                    arm = control;
                    break;
                case 'A':
                    if (!Number(out var rx) || !Number(out var ry) || !Number(out var turn) || !Flag(out var large) || !Flag(out var sweep) || !Number(out x) || !Number(out y)) goto done;
                    foreach (var (c1, c2, end) in SvgArc.Cubics(at, rx, ry, turn, large, sweep, from + new Point(x, y))) Curve(c1, c2, end);
                    at = from + new Point(x, y);
                    break;
                default:
                    goto done;
            }

            before = kind;
        }

    done:
        Finish(false);
        return paths;
    }

    /// <summary>A closed outline whose last point is its first has it once.</summary>
    private static ShapePath Closing(List<PathNode> nodes, bool closed)
    {
        if (nodes.Count > 2 && nodes[0].At.DistanceTo(nodes[^1].At) < 1e-6)
        {
            closed = true;
            var last = nodes[^1];
            nodes.RemoveAt(nodes.Count - 1);
            if (last.Kind == NodeKind.Curve) nodes[0] = nodes[0] with { Kind = NodeKind.Curve, In = last.In };
        }

        return new([.. nodes], closed);
    }

    private void Skip()
    {
        while (_at < _data.Length && (char.IsWhiteSpace(_data[_at]) || _data[_at] == ',')) _at++;
    }

    private bool Flag(out bool flag)
    {
        Skip();
        flag = _at < _data.Length && _data[_at] == '1';
        return _at < _data.Length && _data[_at++] is '0' or '1';
    }

    private bool Number(out double value)
    {
        Skip();
        var from = _at;
        if (_at < _data.Length && _data[_at] is '+' or '-') _at++;
        var (dot, exponent) = (false, false);
        while (_at < _data.Length)
        {
            var c = _data[_at];
            if (c == '.' && !dot && !exponent) dot = true;
            else if (c is 'e' or 'E' && !exponent && _at > from)
            {
                exponent = true;
                if (_at + 1 < _data.Length && _data[_at + 1] is '+' or '-') _at++;
            }
            else if (!char.IsAsciiDigit(c)) break;
            _at++;
        }

        return double.TryParse(_data[from.._at], NumberStyles.Float, CultureInfo.InvariantCulture, out value) && double.IsFinite(value);
    }
}

/// <summary>Elliptical arcs as SVG writes them, as cubics (W3C SVG 1.1, appendix F.6).</summary>
internal static class SvgArc
{
    public static IEnumerable<(Point C1, Point C2, Point To)> Cubics(Point from, double rx, double ry, double turn, bool large, bool sweep, Point to)
    {
        (rx, ry) = (Math.Abs(rx), Math.Abs(ry));
        if (from == to) yield break;
        if (rx < 1e-9 || ry < 1e-9)
        {
            yield return (from, to, to);
            yield break;
        }

        var half = ((from - to) / 2).Turned(-turn, Point.Zero);
        var stretch = (half.X * half.X / (rx * rx)) + (half.Y * half.Y / (ry * ry));
        if (stretch > 1) (rx, ry) = (rx * Math.Sqrt(stretch), ry * Math.Sqrt(stretch));
        var (a, b) = (rx * rx * half.Y * half.Y, ry * ry * half.X * half.X);
        var k = Math.Sqrt(Math.Max(0, ((rx * rx * ry * ry) - a - b) / (a + b))) * (large == sweep ? -1 : 1);
        var middle = new Point(k * rx * half.Y / ry, -k * ry * half.X / rx);
        double Angle(Point p) => Math.Atan2((p.Y - middle.Y) / ry, (p.X - middle.X) / rx);
        var first = Angle(half);
        var by = Angle(half * -1) - first;
        if (sweep && by < 0) by += 2 * Math.PI;
        if (!sweep && by > 0) by -= 2 * Math.PI;
        var pieces = Math.Max(1, (int)Math.Ceiling(Math.Abs(by) / (Math.PI / 2) - 1e-9));
        var arm = 4.0 / 3 * Math.Tan(by / pieces / 4);
        var centre = from.Toward(to, 0.5) + middle.Turned(turn, Point.Zero);
        Point At(double angle) => centre + new Point(rx * Math.Cos(angle), ry * Math.Sin(angle)).Turned(turn, Point.Zero);
        Point Lean(double angle) => new Point(-rx * Math.Sin(angle), ry * Math.Cos(angle)).Turned(turn, Point.Zero) * arm;
        for (var i = 0; i < pieces; i++)
        {
            var (t0, t1) = (first + (by * i / pieces), first + (by * (i + 1) / pieces));
            yield return (At(t0) + Lean(t0), At(t1) - Lean(t1), i + 1 == pieces ? to : At(t1));
        }
    }
}
