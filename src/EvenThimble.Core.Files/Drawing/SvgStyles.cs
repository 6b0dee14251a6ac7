using System.Xml.Linq;
using AngleSharp;
using AngleSharp.Css;
using AngleSharp.Css.Dom;
using AngleSharp.Css.Parser;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>
/// What is said of the look of each element of a drawing: in its attributes, in style sheets, in its own style, the later before the earlier as CSS has it. Nothing is inherited here.
/// </summary>
internal sealed class SvgStyles
{
    private const int MostStyleSheet = 1 << 20;
    private const int MostRules = 5_000;
    private readonly List<ICssStyleRule> _rules = [];
    private readonly Dictionary<XElement, IElement> _mirror = [];

    /// <summary>Reads the style sheets of a drawing.</summary>
    public SvgStyles(XElement root)
    {
        var sheets = root.Descendants().Where(e => e.Name.LocalName == "style").Select(e => e.Value).Where(t => t.Contains('{', StringComparison.Ordinal)).ToList();
        if (sheets.Count == 0 || sheets.Sum(s => (long)s.Length) > MostStyleSheet) return;
        var parser = new CssParser(new CssParserOptions { IsIncludingUnknownDeclarations = true, IsIncludingUnknownRules = true });
        foreach (var sheet in sheets) Add(parser.ParseStyleSheet(sheet).Rules);
        if (_rules.Count > 0) Mirror(root);
    }

    /// <summary>The properties that are set for an element.</summary>
    public Dictionary<string, string> Of(XElement e)
    {
        var set = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var a in e.Attributes())
            if (a.Name.NamespaceName.Length == 0) set[a.Name.LocalName] = a.Value;
        var important = new Dictionary<string, string>(StringComparer.Ordinal);
        if (_mirror.TryGetValue(e, out var mirrored))
        {
            WorkBudget.Current.Spend(_rules.Count);
            foreach (var rule in _rules.Where(r => r.Selector!.Match(mirrored, null)).OrderBy(r => r.Selector!.Specificity))
                foreach (var declared in rule.Style) (declared.IsImportant ? important : set)[declared.Name] = declared.Value;
        }

        foreach (var declaration in ((string?)e.Attribute("style") ?? string.Empty).Split(';'))
        {
            var colon = declaration.IndexOf(':', StringComparison.Ordinal);
            if (colon <= 0) continue;
            var value = declaration[(colon + 1)..].Trim();
            set[declaration[..colon].Trim()] = value.EndsWith("!important", StringComparison.OrdinalIgnoreCase) ? value[..^10].Trim() : value;
        }

        foreach (var (name, value) in important) set[name] = value;
        return set;
    }

    private void Add(ICssRuleList rules)
    {
        foreach (var rule in rules)
        {
            if (_rules.Count >= MostRules) return;
            if (rule is ICssStyleRule { Selector: not null } style) _rules.Add(style);
            else if (rule is ICssMediaRule media && media.Media.MediaText is var text && (text.Contains("screen", StringComparison.OrdinalIgnoreCase) || text.Contains("all", StringComparison.OrdinalIgnoreCase))) Add(media.Rules);
        }
    }

    /// <summary>Selectors are matched on elements of the package's own kind, which stand as those of the drawing do.</summary>
    private void Mirror(XElement root)
    {
        var document = new HtmlParser(new HtmlParserOptions(), BrowsingContext.New(Configuration.Default.WithCss())).ParseDocument(string.Empty);
        foreach (var e in root.DescendantsAndSelf())
        {
            var made = _mirror[e] = document.CreateElement("http://www.w3.org/2000/svg", IsName(e.Name.LocalName) ? e.Name.LocalName : "g");
            foreach (var a in e.Attributes())
                if (a.Name.NamespaceName.Length == 0 && !a.IsNamespaceDeclaration && IsName(a.Name.LocalName)) made.SetAttribute(a.Name.LocalName, a.Value);
            if (e.Parent is { } parent && _mirror.TryGetValue(parent, out var above)) above.AppendChild(made);
        }
    }

    private static bool IsName(string name) => name.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_');
}
