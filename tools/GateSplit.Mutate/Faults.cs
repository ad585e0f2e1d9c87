using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;
using static Microsoft.CodeAnalysis.CSharp.SyntaxFactory;

namespace GateSplit.Mutate;

/// <summary>Finds the places of a file where a small fault could be planted. Whether it compiles is found out when it is.</summary>
internal sealed class Faults : CSharpSyntaxWalker
{
    private static readonly Dictionary<SyntaxKind, (SyntaxKind Expression, SyntaxKind Token)[]> Operators = new()
    {
        [SyntaxKind.AddExpression] = [(SyntaxKind.SubtractExpression, SyntaxKind.MinusToken)],
        [SyntaxKind.SubtractExpression] = [(SyntaxKind.AddExpression, SyntaxKind.PlusToken)],
        [SyntaxKind.MultiplyExpression] = [(SyntaxKind.DivideExpression, SyntaxKind.SlashToken)],
        [SyntaxKind.DivideExpression] = [(SyntaxKind.MultiplyExpression, SyntaxKind.AsteriskToken)],
        [SyntaxKind.ModuloExpression] = [(SyntaxKind.MultiplyExpression, SyntaxKind.AsteriskToken)],
        [SyntaxKind.LessThanExpression] = [(SyntaxKind.LessThanOrEqualExpression, SyntaxKind.LessThanEqualsToken), (SyntaxKind.GreaterThanExpression, SyntaxKind.GreaterThanToken)],
        [SyntaxKind.LessThanOrEqualExpression] = [(SyntaxKind.LessThanExpression, SyntaxKind.LessThanToken), (SyntaxKind.GreaterThanExpression, SyntaxKind.GreaterThanToken)],
        [SyntaxKind.GreaterThanExpression] = [(SyntaxKind.GreaterThanOrEqualExpression, SyntaxKind.GreaterThanEqualsToken), (SyntaxKind.LessThanExpression, SyntaxKind.LessThanToken)],
        [SyntaxKind.GreaterThanOrEqualExpression] = [(SyntaxKind.GreaterThanExpression, SyntaxKind.GreaterThanToken), (SyntaxKind.LessThanExpression, SyntaxKind.LessThanToken)],
        [SyntaxKind.EqualsExpression] = [(SyntaxKind.NotEqualsExpression, SyntaxKind.ExclamationEqualsToken)],
        [SyntaxKind.NotEqualsExpression] = [(SyntaxKind.EqualsExpression, SyntaxKind.EqualsEqualsToken)],
        [SyntaxKind.LogicalAndExpression] = [(SyntaxKind.LogicalOrExpression, SyntaxKind.BarBarToken)],
        [SyntaxKind.LogicalOrExpression] = [(SyntaxKind.LogicalAndExpression, SyntaxKind.AmpersandAmpersandToken)],
        [SyntaxKind.BitwiseAndExpression] = [(SyntaxKind.BitwiseOrExpression, SyntaxKind.BarToken)],
        [SyntaxKind.LeftShiftExpression] = [(SyntaxKind.RightShiftExpression, SyntaxKind.GreaterThanGreaterThanToken)],
        [SyntaxKind.RightShiftExpression] = [(SyntaxKind.LeftShiftExpression, SyntaxKind.LessThanLessThanToken)],
    };

    private static readonly Dictionary<string, string> Calls = new()
    {
        ["Any"] = "All",
        ["All"] = "Any",
        ["Min"] = "Max",
        ["Max"] = "Min",
        ["First"] = "Last",
        ["Last"] = "First",
        ["FirstOrDefault"] = "LastOrDefault",
        ["LastOrDefault"] = "FirstOrDefault",
        ["OrderBy"] = "OrderByDescending",
        ["OrderByDescending"] = "OrderBy",
        ["Take"] = "Skip",
        ["Skip"] = "Take",
        ["TakeWhile"] = "SkipWhile",
        ["ThenBy"] = "ThenByDescending",
        ["Floor"] = "Ceiling",
        ["Ceiling"] = "Floor",
        ["Sin"] = "Cos",
        ["Cos"] = "Sin",
        ["StartsWith"] = "EndsWith",
        ["EndsWith"] = "StartsWith",
        ["Union"] = "Except",
        ["Except"] = "Union",
        ["TrimStart"] = "TrimEnd",
        ["TrimEnd"] = "TrimStart",
        ["Warning"] = "Note",
        ["Note"] = "Warning",
    };

    private readonly string _file;
    private readonly List<Fault> _found = [];

    private Faults(string file) => _file = file;

    /// <summary>All of a file.</summary>
    public static List<Fault> In(string file, SyntaxNode root)
    {
        var faults = new Faults(file);
        faults.Visit(root);
        return faults._found;
    }

    /// <inheritdoc/>
    public override void VisitAttributeList(AttributeListSyntax node)
    {
        // An attribute is no behaviour that a test could see.
    }

    /// <inheritdoc/>
    public override void VisitBinaryExpression(BinaryExpressionSyntax node)
    {
        foreach (var (kind, token) in Operators.GetValueOrDefault(node.Kind(), []))
        {
            Add("operator", node, BinaryExpression(kind, node.Left, Token(node.OperatorToken.LeadingTrivia, token, node.OperatorToken.TrailingTrivia), node.Right));
        }

        if (node.IsKind(SyntaxKind.CoalesceExpression))
        {
            Add("fallback", node, node.Right);
        }

        if (node.Kind() is SyntaxKind.LogicalAndExpression or SyntaxKind.LogicalOrExpression)
        {
            Add("dropped condition", node, node.Left);
            Add("dropped condition", node, node.Right);
        }

        base.VisitBinaryExpression(node);
    }

    /// <inheritdoc/>
    public override void VisitPrefixUnaryExpression(PrefixUnaryExpressionSyntax node)
    {
        if (node.Kind() is SyntaxKind.LogicalNotExpression or SyntaxKind.UnaryMinusExpression)
        {
            Add("sign", node, node.Operand);
        }

        base.VisitPrefixUnaryExpression(node);
    }

    /// <inheritdoc/>
    public override void VisitConditionalExpression(ConditionalExpressionSyntax node)
    {
        Add("other side", node, node.WithWhenTrue(node.WhenFalse.WithTriviaFrom(node.WhenTrue)).WithWhenFalse(node.WhenTrue.WithTriviaFrom(node.WhenFalse)));
        base.VisitConditionalExpression(node);
    }

    /// <inheritdoc/>
    public override void VisitIfStatement(IfStatementSyntax node)
    {
        Add("other side", node.Condition, PrefixUnaryExpression(SyntaxKind.LogicalNotExpression, ParenthesizedExpression(node.Condition)));
        base.VisitIfStatement(node);
    }

    /// <inheritdoc/>
    public override void VisitLiteralExpression(LiteralExpressionSyntax node)
    {
        switch (node.Kind())
        {
            case SyntaxKind.TrueLiteralExpression:
                Add("truth", node, LiteralExpression(SyntaxKind.FalseLiteralExpression));
                break;
            case SyntaxKind.FalseLiteralExpression:
                Add("truth", node, LiteralExpression(SyntaxKind.TrueLiteralExpression));
                break;
            case SyntaxKind.NumericLiteralExpression when node.Token.Value is int number:
                Add("number", node, LiteralExpression(SyntaxKind.NumericLiteralExpression, Literal(number + 1)));
                break;
            case SyntaxKind.NumericLiteralExpression when node.Token.Value is double number:
                Add("number", node, LiteralExpression(SyntaxKind.NumericLiteralExpression, Literal(number + 1)));
                break;
        }
    }

    /// <inheritdoc/>
    public override void VisitRelationalPattern(RelationalPatternSyntax node)
    {
        var kind = node.OperatorToken.Kind() switch
        {
            SyntaxKind.LessThanToken => SyntaxKind.LessThanEqualsToken,
            SyntaxKind.LessThanEqualsToken => SyntaxKind.LessThanToken,
            SyntaxKind.GreaterThanToken => SyntaxKind.GreaterThanEqualsToken,
            _ => SyntaxKind.GreaterThanToken,
        };
        Add("edge", node, node.WithOperatorToken(Token(node.OperatorToken.LeadingTrivia, kind, node.OperatorToken.TrailingTrivia)));
        base.VisitRelationalPattern(node);
    }

    /// <inheritdoc/>
    public override void VisitIsPatternExpression(IsPatternExpressionSyntax node)
    {
        if (node.Pattern is UnaryPatternSyntax { RawKind: (int)SyntaxKind.NotPattern } not)
        {
            Add("other side", node, node.WithPattern(not.Pattern));
        }
        else if (node.Pattern is ConstantPatternSyntax or BinaryPatternSyntax)
        {
            Add("other side", node, PrefixUnaryExpression(SyntaxKind.LogicalNotExpression, ParenthesizedExpression(node)));
        }

        base.VisitIsPatternExpression(node);
    }

    /// <inheritdoc/>
    public override void VisitInvocationExpression(InvocationExpressionSyntax node)
    {
        if (node.Expression is MemberAccessExpressionSyntax { Name: IdentifierNameSyntax name } access)
        {
            if (Calls.TryGetValue(name.Identifier.Text, out var other) && !IsOneOfAKind(node))
            {
                Add("other call", node, node.WithExpression(access.WithName(IdentifierName(other))));
            }

            if (name.Identifier.Text is "Where" or "Distinct" or "Order" or "Reverse" or "Concat" or "Append" or "Prepend" or "Trim" or "RemoveAll" or "Round" or "Abs" or "Clamp")
            {
                Add("dropped call", node, access.Expression is IdentifierNameSyntax { Identifier.Text: "Math" } ? node.ArgumentList.Arguments[0].Expression : access.Expression);
            }
        }

        base.VisitInvocationExpression(node);
    }

    /// <inheritdoc/>
    public override void VisitExpressionStatement(ExpressionStatementSyntax node)
    {
        Add("dropped statement", node, EmptyStatement());
        base.VisitExpressionStatement(node);
    }

    /// <inheritdoc/>
    public override void VisitYieldStatement(YieldStatementSyntax node)
    {
        Add("dropped statement", node, node.IsKind(SyntaxKind.YieldBreakStatement) ? EmptyStatement() : IfStatement(LiteralExpression(SyntaxKind.FalseLiteralExpression), node));
        base.VisitYieldStatement(node);
    }

    /// <inheritdoc/>
    public override void VisitContinueStatement(ContinueStatementSyntax node) => Add("dropped statement", node, EmptyStatement());

    /// <inheritdoc/>
    public override void VisitBreakStatement(BreakStatementSyntax node)
    {
        if (node.Parent is not SwitchSectionSyntax)
        {
            Add("dropped statement", node, EmptyStatement());
        }
    }

    /// <inheritdoc/>
    public override void VisitAssignmentExpression(AssignmentExpressionSyntax node)
    {
        if (node.Parent is InitializerExpressionSyntax { RawKind: (int)SyntaxKind.WithInitializerExpression } set)
        {
            Add("dropped setting", set, set.RemoveNode(node, SyntaxRemoveOptions.KeepNoTrivia)!);
        }

        var other = node.Kind() switch
        {
            SyntaxKind.AddAssignmentExpression => (SyntaxKind.SubtractAssignmentExpression, SyntaxKind.MinusEqualsToken),
            SyntaxKind.SubtractAssignmentExpression => (SyntaxKind.AddAssignmentExpression, SyntaxKind.PlusEqualsToken),
            _ => default,
        };
        if (other != default)
        {
            Add("operator", node, AssignmentExpression(other.Item1, node.Left, Token(other.Item2), node.Right));
        }

        base.VisitAssignmentExpression(node);
    }

    /// <inheritdoc/>
    public override void VisitPostfixUnaryExpression(PostfixUnaryExpressionSyntax node)
    {
        if (node.Kind() is SyntaxKind.PostIncrementExpression && node.Parent is not ForStatementSyntax)
        {
            Add("dropped statement", node, node.Operand);
        }

        base.VisitPostfixUnaryExpression(node);
    }

    /// <summary>True of a search by an id: there is one at most, so the first is the last.</summary>
    private static bool IsOneOfAKind(InvocationExpressionSyntax call) =>
        call.ArgumentList.Arguments is [{ Expression: SimpleLambdaExpressionSyntax { ExpressionBody: BinaryExpressionSyntax { RawKind: (int)SyntaxKind.EqualsExpression, Left: MemberAccessExpressionSyntax { Name.Identifier.Text: var member } } } }]
        && member.EndsWith("Id", StringComparison.Ordinal);

    private void Add(string kind, SyntaxNode old, SyntaxNode fresh) => _found.Add(new Fault(
        _file,
        old.GetLocation().GetLineSpan().StartLinePosition.Line + 1,
        kind,
        Short(old.ToString()),
        Short(fresh.NormalizeWhitespace().ToString()),
        old,
        fresh));

    private static string Short(string text)
    {
        var line = string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return line.Length > 90 ? line[..87] + "..." : line;
    }
}
